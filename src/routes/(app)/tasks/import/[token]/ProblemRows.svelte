<script lang="ts">
  import { enhance } from '$app/forms';
  import { submitLook } from '$lib/ui/form/submit.ts';
  import type { PageData } from './$types';

  /** Rows that cannot be imported as they are, each cell to be mended. */
  let { review }: Pick<PageData, 'review'> = $props();
</script>

{#if review.problems.length > 0}
  <h2 class="mt-6">Rows with a problem</h2>
  <table>
    <thead><tr><th>Line</th><th>Column</th><th>Problem</th><th>The cell, to be corrected</th></tr></thead>
    <tbody>
      {#each review.problems as { line, faults } (line)}
        {#each faults as { index, label, reason, cell }, i (label)}
          <tr>
            <td>{i === 0 ? line : ''}</td><td>{label}</td><td class="brick-text">{reason}</td>
            <td>
              {#if index >= 0}
                <form method="POST" action="?/mend" class="flex gap-2" use:enhance={submitLook}>
                  <input type="hidden" name="line" value={line} />
                  <input type="hidden" name="index" value={index} />
                  <input class="value" name="cell" value={cell} aria-label="{label} in line {line}" />
                  <button class="button">Mend</button>
                </form>
              {/if}
            </td>
          </tr>
        {/each}
      {/each}
    </tbody>
  </table>
  {#if review.problemCount > review.problems.length}<p class="quiet mt-2">
      and {(review.problemCount - review.problems.length).toLocaleString('en')} more.
    </p>{/if}
{/if}
