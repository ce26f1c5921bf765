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
  /** The row that is open: a status that is changed or removed, or a new one. */
  let opened = $state<{ id: number; to: 'change' | 'remove' } | null>(null);
  const NEW = 0;

  /** What opens has the keyboard. */
  const takesFocus = (field: HTMLElement) => field.focus();

  function open(id: number, to: 'change' | 'remove' = 'change') {
    opened = { id, to };
    changing = null;
  }
  const closing = submitDone((what) => {
    opened = null;
    done(what);
  });
  const said = $derived(fault ? (Object.values(fault.errors)[0] ?? '') : '');
</script>

<h2>Statuses</h2>
<p class="quiet">Choose any names. Rules use the phase. Finished and closed tasks are never overdue.</p>
{#if said}<p class="band brick mt-2" role="alert"><b>Not saved</b><span>{said}</span></p>{/if}
<ul>
  {#each statuses as status, position (status.id)}
    <li>
      <div class="row">
        <span class="about"
          ><b>{status.name}</b>
          <span class="quiet">{status.phase}, {many(status.tasks, 'task')}</span></span
        >
        <button class="button plain" aria-label="Change {status.name}" onclick={() => open(status.id)}
          >Change</button
        >
        <button
          class="button plain"
          aria-label="Remove {status.name}"
          onclick={() => open(status.id, 'remove')}>Remove</button
        >
      </div>
      {#if opened?.id === status.id && opened.to === 'change'}
        <form method="POST" action="?/status" use:enhance={closing}>
          <input type="hidden" name="id" value={status.id} />
          {@render nameAndPhase(status.name, status.name, status.phase, (phase) =>
            choosePhase(status.id, status.phase, phase)
          )}
          <label class="place"
            ><span class="sr">Order of {status.name}</span>
            <select class="value" name="position">
              {#each statuses as { id }, i (id)}<option value={i} selected={i === position}>{i + 1}</option
                >{/each}
            </select></label
          >
          {@render ends('Save')}
        </form>
        {#if changing?.id === status.id}
          <div class="moves" aria-live="polite">
            {#if changing.moved}<Effect effect={changing.moved} />{:else}<p class="quiet">Computing…</p>{/if}
          </div>
        {/if}
      {:else if opened?.id === status.id}
        <form method="POST" action="?/dropStatus" use:enhance={closing} class="drop">
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
          {@render ends(`Remove “${status.name}”`)}
        </form>
      {/if}
    </li>
  {/each}
</ul>
{#if opened?.id === NEW}
  <form method="POST" action="?/status" use:enhance={closing}>
    {@render nameAndPhase('a new status', fault?.given.name ?? '', fault?.given.phase ?? '', () => {})}
    {@render ends('Add status')}
  </form>
{:else}<button class="button" onclick={() => open(NEW)}>Add a status</button>{/if}

{#snippet nameAndPhase(of: string, name: string, phase: string, onphase: (phase: string) => void)}
  <input class="value" name="name" value={name} aria-label="Name of {of}" use:takesFocus />
  <select
    class="value"
    name="phase"
    aria-label="Phase of {of}"
    onchange={(event) => onphase(event.currentTarget.value)}
  >
    {#each phases as one (one)}<option selected={phase === one}>{one}</option>{/each}
  </select>
{/snippet}

{#snippet ends(yes: string)}
  <button class="button main">{yes}</button>
  <button type="button" class="button" onclick={() => (opened = null)}>Cancel</button>
{/snippet}

<style>
  h2 {
    margin-bottom: 4px;
  }
  ul {
    margin: 6px 0;
  }
  .row {
    display: flex;
    gap: 2px;
    align-items: center;
    padding: 2px 0;
  }
  .about {
    flex: 1;
  }
  li form {
    padding: 4px 0 10px;
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
  .place .value {
    width: 56px;
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
