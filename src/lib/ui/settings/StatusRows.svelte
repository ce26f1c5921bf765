<script lang="ts">
  import { many } from '$lib/core/many.ts';
  import { enhance } from '$app/forms';
  import { getContext } from 'svelte';
  import Effect from '$lib/ui/effect/Effect.svelte';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import type { EffectView } from '$lib/view/effects.ts';

  /** The statuses of the workspace, each in the phase that counts for rules. */
  interface Props {
    statuses: readonly { id: number; name: string; phase: string; tasks: number; namedBy: string }[];
    phases: readonly string[];
    fault: { errors: Record<string, string>; given: Record<string, string> } | null;
    /** Asks what it would move if a status were in another phase. */
    ask: (statusId: number, phase: string) => Promise<EffectView | null>;
  }

  let { statuses, phases, fault, ask }: Props = $props();
  /** The status whose phase is being changed, with what that would move once it is known. */
  let changing = $state<{ id: number; moved: EffectView | null } | null>(null);

  async function choosePhase(id: number, before: string, phase: string) {
    changing = before === phase ? null : { id, moved: null };
    if (!changing) return;
    const moved = await ask(id, phase);
    if (changing?.id === id) changing = { id, moved };
  }
  const done = getContext<(done: Done) => void>('done');
  const said = $derived(fault ? (Object.values(fault.errors)[0] ?? '') : '');
</script>

<h2>Statuses</h2>
<p class="quiet">Choose any names. Rules use the phase. Finished and closed tasks are never overdue.</p>
{#if said}<p class="band brick mt-2" role="alert"><b>Not saved</b><span>{said}</span></p>{/if}
<ul>
  {#each statuses as status, position (status.id)}
    <li>
      <form method="POST" action="?/status" use:enhance={submitDone(done)}>
        <input type="hidden" name="id" value={status.id} />
        <input class="value" name="name" value={status.name} aria-label="Name of the status {status.name}" />
        <select
          class="value"
          name="phase"
          aria-label="Phase of {status.name}"
          onchange={(event) => void choosePhase(status.id, status.phase, event.currentTarget.value)}
        >
          {#each phases as phase (phase)}<option selected={status.phase === phase}>{phase}</option>{/each}
        </select>
        <select class="value place" name="position" aria-label="Order of {status.name}">
          {#each statuses as { id }, i (id)}<option value={i} selected={i === position}>{i + 1}</option
            >{/each}
        </select>
        <button class="button">Save</button>
      </form>
      {#if changing?.id === status.id}
        <div class="moves" aria-live="polite">
          {#if changing.moved}<Effect effect={changing.moved} />{:else}<p class="quiet">Computing…</p>{/if}
        </div>
      {/if}
      <details>
        <summary class="quiet">{many(status.tasks, 'task')} · Remove</summary>
        <form method="POST" action="?/dropStatus" use:enhance={submitDone(done)} class="drop">
          <input type="hidden" name="id" value={status.id} />
          {#if status.namedBy}<span class="brick-text"
              >These rules use it and would stop: {status.namedBy}.</span
            >{/if}
          {#if status.tasks > 0}
            <label
              >Move its tasks to
              <select class="value" name="instead">
                <option value="">choose</option>
                {#each statuses.filter(({ id }) => id !== status.id) as { id, name } (id)}<option value={id}
                    >{name}</option
                  >{/each}
              </select></label
            >
          {/if}
          <button class="button">Remove “{status.name}”</button>
        </form>
      </details>
    </li>
  {/each}
  <li>
    <form method="POST" action="?/status" use:enhance={submitDone(done)}>
      <input
        class="value"
        name="name"
        placeholder="another status"
        aria-label="Name of a new status"
        value={fault && !fault.given.id ? (fault.given.name ?? '') : ''}
      />
      <select class="value" name="phase" aria-label="Phase of the new status">
        {#each phases as phase (phase)}<option selected={fault?.given.phase === phase}>{phase}</option>{/each}
      </select>
      <button class="button">Add status</button>
    </form>
  </li>
</ul>

<style>
  h2 {
    margin-bottom: 4px;
  }
  ul {
    margin-top: 10px;
    display: grid;
    gap: 8px;
  }
  li {
    border-bottom: 1px solid var(--line-soft);
    padding-bottom: 8px;
  }
  form {
    display: flex;
    flex-wrap: wrap;
    gap: 6px;
  }
  .value[name='name'] {
    flex: 1 1 140px;
  }
  .moves {
    margin: 6px 0 6px 8px;
    font-size: 13px;
  }
  .place {
    width: 56px;
  }
  summary {
    cursor: pointer;
    width: fit-content;
    margin-top: 3px;
  }
  .drop {
    align-items: end;
    margin-top: 6px;
  }
  .drop label {
    display: grid;
    font-size: 12.5px;
    color: var(--ink-2);
  }
</style>
