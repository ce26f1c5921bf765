<script lang="ts">
  import type { RuleVersionView } from '$lib/view/rules.ts';

  /** What one version of a rule says otherwise than another, part by part. */
  interface Props {
    differences: RuleVersionView['differences'];
    /** What is said where there is no difference. */
    none: string;
  }

  let { differences, none }: Props = $props();
</script>

{#each differences as { part, gone, added } (part)}
  <div class="part">
    <span class="label">{part}</span>
    <div>
      {#each gone as line (line)}<p class="gone"><span class="sr">removed: </span>{line}</p>{/each}
      {#each added as line (line)}<p class="added"><span class="sr">added: </span>{line}</p>{/each}
    </div>
  </div>
{:else}
  <p class="quiet">{none}</p>
{/each}

<style>
  .part {
    display: grid;
    grid-template-columns: 62px minmax(0, 1fr);
    gap: 4px 10px;
    font-size: 13px;
  }
  .label {
    color: var(--ink-3);
  }
  .gone {
    color: var(--brick);
    text-decoration: line-through;
    text-decoration-thickness: 1px;
  }
  .added {
    color: var(--sea);
  }
</style>
