<script lang="ts">
  import type { Snippet } from 'svelte';

  interface Props {
    title: string;
    /** What this part comes to, at the right edge. */
    count?: string;
    faults?: readonly string[];
    children: Snippet;
  }

  let { title, count, faults = [], children }: Props = $props();
  const id = $props.id();
</script>

<section aria-labelledby={id}>
  <h2 {id}>{title}</h2>
  <div class="body">
    {@render children()}
    {#each faults as fault, i (i)}<p class="fault" role="alert">{fault}</p>{/each}
  </div>
  {#if count}<p class="quiet count">{count}</p>{/if}
</section>

<style>
  section {
    display: grid;
    grid-template-columns: 78px minmax(0, 1fr);
    border-top: 1px solid var(--line);
    padding: 10px 0 11px;
    position: relative;
  }
  h2 {
    padding-top: 4px;
  }
  .body {
    display: grid;
    gap: 7px;
  }
  .count {
    grid-column: 2;
    text-align: right;
  }
</style>
