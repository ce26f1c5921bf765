<script lang="ts">
  import type { Snippet } from 'svelte';

  /** One part of a task's panel: a rule above it, its heading, what stands beside that, and what it holds. */
  interface Props {
    title: string;
    /** What those who hear it are told it is; the title where absent. */
    label?: string;
    beside?: Snippet;
    children: Snippet;
  }

  let { title, label, beside, children }: Props = $props();
</script>

<section aria-label={label ?? title}>
  <h3>{title}</h3>
  {@render beside?.()}
  {@render children()}
</section>

<style>
  section {
    border-top: 1px solid var(--line);
    padding: 12px 0 14px;
  }
  h3 {
    font:
      650 14.5px/1.25 'Bricolage Grotesque Variable',
      sans-serif;
    margin: 0 8px 6px 0;
    display: inline-block;
  }
  section :global(form.row) {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
    align-items: end;
    margin-top: 8px;
  }
  section :global(.grow) {
    flex: 1 1 180px;
  }
</style>
