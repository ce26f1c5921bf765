<script lang="ts">
  import { enhance } from '$app/forms';
  import { getContext } from 'svelte';
  import Effect from '$lib/ui/effect/Effect.svelte';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import type { CalendarDraft } from '$lib/view/calendars.ts';
  import type { EffectView } from '$lib/view/effects.ts';

  /** What is changed and not saved, and what saving it would move. */
  interface Props {
    draft: CalendarDraft;
    changes: readonly string[];
    /** Null while it is worked out. */
    moved: EffectView | null;
    fault: string;
    onforget: () => void;
  }

  let { draft, changes, moved, fault, onforget }: Props = $props();
  const done = getContext<(done: Done) => void>('done');
</script>

<section class="sheet draft" aria-live="polite">
  <div class="flex flex-wrap items-center gap-3">
    <h2>Effect of your changes (not saved)</h2>
    <form method="POST" action="?/save" use:enhance={submitDone(done)} class="ml-auto flex gap-2">
      <input type="hidden" name="calendar" value={JSON.stringify(draft)} />
      <button type="button" class="button" onclick={onforget}>Discard changes</button>
      <button class="button main" disabled={fault !== ''}>Save the calendar</button>
    </form>
  </div>
  <div class="versions">
    <div>
      <p class="label">Changed</p>
      <ul>
        {#each changes.slice(0, 12) as change (change)}<li>{change}</li>{/each}
        {#if changes.length > 12}<li class="quiet">and {changes.length - 12} more</li>{/if}
      </ul>
    </div>
    <div>
      <p class="label">So</p>
      {#if fault}<p class="fault" role="alert">{fault}</p>
      {:else if moved}<Effect effect={moved} />
      {:else}<p class="quiet">Computing…</p>{/if}
    </div>
  </div>
</section>

<style>
  .draft {
    padding: 12px 16px;
    margin-bottom: 16px;
    border-color: var(--brass);
  }
  .versions {
    display: grid;
    grid-template-columns: minmax(0, 1fr) minmax(0, 2fr);
    gap: 24px;
    margin-top: 8px;
    font-size: 13px;
  }
  .label {
    color: var(--ink-3);
    font-size: 12px;
    font-weight: 550;
  }
  @media (max-width: 1100px) {
    .versions {
      grid-template-columns: minmax(0, 1fr);
    }
  }
</style>
