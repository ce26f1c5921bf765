<script lang="ts">
  /** Where somebody is on a way of several stages. It only tells; each stage has its own way on. */
  let { label, stages, at }: { label: string; stages: readonly string[]; at: number } = $props();
</script>

<ol aria-label={label}>
  {#each stages as stage, index (stage)}
    <li aria-current={index === at ? 'step' : undefined} class:done={index < at}>
      <span class="n" aria-hidden="true">{index + 1}</span>
      {stage}{#if index < at}<span class="sr">, done</span>{/if}
    </li>
  {/each}
</ol>

<style>
  ol {
    display: flex;
    flex-wrap: wrap;
    gap: 4px 22px;
    font-size: 13px;
    color: var(--ink-3);
  }
  li {
    display: flex;
    align-items: center;
    gap: 6px;
  }
  .n {
    display: grid;
    place-content: center;
    width: 20px;
    height: 20px;
    border: 1.5px solid currentColor;
    font-weight: 600;
    font-size: 12px;
  }
  .done {
    color: var(--ink-2);
  }
  .done .n {
    border-style: dotted;
  }
  [aria-current] {
    color: var(--ink);
    font-weight: 600;
  }
  [aria-current] .n {
    background: var(--lit);
  }
</style>
