<script lang="ts">
  import type { Snippet } from 'svelte';
  import Mark from './Mark.svelte';

  /** The sheet on which people come in: signing in, and setting a workspace up. */
  let { title, children }: { title: string; children: Snippet } = $props();
</script>

<svelte:head><title>{title} · Early Bell</title></svelte:head>

<main class="threshold">
  <p class="brand"><Mark size={30} /> Early Bell</p>
  <section class="sheet">
    <h1>{title}</h1>
    {@render children()}
  </section>
</main>

<style>
  .threshold {
    min-height: 100vh;
    display: grid;
    place-content: center;
    gap: 18px;
    padding: 32px 16px;
    grid-template-columns: minmax(0, 430px);
  }
  .brand {
    display: flex;
    align-items: center;
    gap: 10px;
    font:
      650 21px 'Bricolage Grotesque Variable',
      sans-serif;
  }
  section {
    padding: 24px 26px 26px;
    display: grid;
    gap: 14px;
  }
</style>
