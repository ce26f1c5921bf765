<script lang="ts">
  import { page } from '$app/state';
</script>

<svelte:head><title>{page.status} · Early Bell</title></svelte:head>

<main class="grid min-h-[60vh] place-content-center gap-3 p-8">
  <h1>{page.status === 404 ? 'Page not found' : 'Something failed'}</h1>
  <p>{page.error?.message}</p>
  <p><a href="/">Open the Bell tower</a></p>
</main>
