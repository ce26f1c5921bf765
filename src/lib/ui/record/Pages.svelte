<script lang="ts">
  import { page } from '$app/state';
  import { withParameter } from './address.ts';

  /** On to older entries, and back to the newest. */
  let { next }: { next: number | null } = $props();
</script>

<p class="pages no-print">
  {#if page.url.searchParams.has('before')}<a class="button" href={withParameter(page.url, 'before', '')}
      >Newest</a
    >{/if}
  {#if next !== null}<a class="button" href={withParameter(page.url, 'before', String(next))}>Older</a>{/if}
</p>

<style>
  .pages {
    display: flex;
    gap: 8px;
    margin-top: 12px;
  }
</style>
