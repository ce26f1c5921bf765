<script lang="ts">
  import { enhance } from '$app/forms';
  import { getContext } from 'svelte';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import type { StandingView } from '$lib/view/told.ts';

  /** How long before each due date of everything of theirs somebody is reminded. */
  interface Props {
    standing: StandingView;
    fault: { errors: Record<string, string> } | null;
  }
  let { standing, fault }: Props = $props();
  const done = getContext<(done: Done) => void>('done');
</script>

<h2>For everything of mine</h2>
<p class="quiet">
  A reminder of each task that you own, counted from its due date. It comes besides what rules and reminders
  on a task say.
</p>
{#if standing.isOff}<p class="band brick">
    <b>Off here</b><span>The built-in rule for reminders is off, so none of these come.</span>
  </p>{/if}
{#if standing.leads.length > 0}
  <ul aria-label="Reminders for everything of mine">
    {#each standing.leads as { id, words } (id)}
      <li>
        <span>{words}</span>
        <form method="POST" action="?/dropRemind" use:enhance={submitDone(done)}>
          <input type="hidden" name="id" value={id} />
          <button class="button plain" aria-label="Remove: {words}">Remove</button>
        </form>
      </li>
    {/each}
  </ul>
{/if}
<form class="add" method="POST" action="?/remind" use:enhance={submitDone(done)}>
  <label
    >Remind me <select class="value" name="offset">
      <option value="">choose…</option>
      {#each standing.offered as { value, words } (value)}<option {value}>{words}</option>{/each}
    </select></label
  >
  <button class="button">Add</button>
  {#if fault}<p class="fault" role="alert">{Object.values(fault.errors)[0]}</p>{/if}
</form>

<style>
  li {
    display: flex;
    align-items: center;
    justify-content: space-between;
    max-width: 420px;
    border-bottom: 1px solid var(--line-soft);
    min-height: 32px;
  }
  .add {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
    align-items: center;
    margin-top: 8px;
  }
</style>
