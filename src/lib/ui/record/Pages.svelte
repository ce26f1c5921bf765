<script lang="ts">
  import { page } from '$app/state';
  import { withParameter } from './address.ts';

  interface Props {
    /** Where the next page goes on; null on the last. */
    next: string | number | null;
    /** What the way on and the way back are called. */
    on?: string;
    first?: string;
  }

  let { next, on = 'Older', first = 'Newest' }: Props = $props();
</script>

<p class="pages no-print">
  {#if page.url.searchParams.has('before')}<a class="button" href={withParameter(page.url, 'before', '')}
      >{first}</a
    >{/if}
  {#if next !== null}<a class="button" href={withParameter(page.url, 'before', String(next))}>{on}</a>{/if}
</p>

<style>
  .pages {
    display: flex;
    gap: 8px;
    margin-top: 12px;
  }
</style>
