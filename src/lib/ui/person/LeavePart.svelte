<script lang="ts">
  import { enhance } from '$app/forms';
  import { getContext } from 'svelte';
  import Field from '$lib/ui/form/Field.svelte';
  import TextField from '$lib/ui/form/TextField.svelte';
  import TimeField from '$lib/ui/form/date/TimeField.svelte';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import type { LeaveView } from '$lib/view/people.ts';
  import DateField from '../form/date/DateField.svelte';

  /** A person's leave, and the form that adds to it. What should be known first is said before it is saved. */
  interface Props {
    personId: number;
    leave: readonly LeaveView[];
    standsInFor: readonly (LeaveView & { name: string })[];
    people: readonly { id: number; name: string }[];
    fault: {
      errors: Record<string, string>;
      given: Record<string, unknown>;
      warnings: string[];
    } | null;
  }

  let { personId, leave, standsInFor, people, fault }: Props = $props();
  const done = getContext<(done: Done) => void>('done');
  /** How often some was added: the form begins anew then, and not when the list comes, which may be after somebody types on. */
  let saved = $state(0);
  const of = $derived({ person: personId });
  const given = (name: string) => String(fault?.given[name] ?? '');
</script>

<h2 class="mt-5">Leave</h2>
{#if leave.length > 0}
  <table>
    <caption class="sr">Leave</caption>
    <tbody>
      {#each leave as entry (entry.id)}
        <tr class:over={entry.over}>
          <th scope="row">{entry.text}</th>
          <td>{entry.standIn ? `stand-in: ${entry.standIn}` : 'no stand-in'}</td>
          <td class="quiet">{entry.note}</td>
          <td class="act">
            <form method="POST" action="?/dropLeave" use:enhance={submitDone(done)}>
              <input type="hidden" name="leave" value={entry.id} />
              <button class="button plain" aria-label="Remove leave {entry.text}">Remove</button>
            </form>
          </td>
        </tr>
      {/each}
    </tbody>
  </table>
{/if}
{#each standsInFor as entry (entry.id)}<p class="quiet">Stand-in for {entry.name}, {entry.text}.</p>{/each}

{#key saved}
  <form method="POST" action="?/leave" use:enhance={submitDone(done, undefined, () => saved++)} class="leave">
    {#if fault && fault.warnings.length > 0}
      <div class="band brick wide" role="alert">
        <b>Please check</b>
        <div>
          {#each fault.warnings as warning (warning)}<p>{warning}</p>{/each}
          <label class="mt-1 flex items-baseline gap-2"
            ><input type="checkbox" name="anyway" /> Save anyway</label
          >
        </div>
      </div>
    {/if}
    <Field label="First day" error={fault?.errors.fromDate ?? fault?.errors['']}>
      {#snippet control(attributes)}<DateField
          name="fromDate"
          value={given('fromDate')}
          {of}
          {...attributes}
        />{/snippet}
    </Field>
    <Field label="Start time (optional)" error={fault?.errors.fromTime}>
      {#snippet control(attributes)}<TimeField
          class="value time"
          name="fromTime"
          value={given('fromTime')}
          {...attributes}
        />{/snippet}
    </Field>
    <Field label="Last day" error={fault?.errors.untilDate}>
      {#snippet control(attributes)}<DateField
          name="untilDate"
          value={given('untilDate')}
          {of}
          {...attributes}
        />{/snippet}
    </Field>
    <Field label="End time (optional)" error={fault?.errors.untilTime}>
      {#snippet control(attributes)}<TimeField
          class="value time"
          name="untilTime"
          value={given('untilTime')}
          {...attributes}
        />{/snippet}
    </Field>
    <Field label="Stand-in" error={fault?.errors.standInId}>
      {#snippet control(attributes)}
        <select class="value" name="standInId" {...attributes}>
          <option value="">Nobody (notices wait or go to the manager)</option>
          {#each people as { id, name } (id)}<option value={id} selected={given('standInId') === String(id)}
              >{name}</option
            >{/each}
        </select>
      {/snippet}
    </Field>
    <TextField label="Note" name="note" value={given('note')} error={fault?.errors.note} />
    <button class="button">Add the leave</button>
  </form>
{/key}

<style>
  h2 {
    margin-bottom: 8px;
  }
  th {
    font-size: 13px;
    color: var(--ink);
    padding-top: 7px;
    vertical-align: top;
    border-color: var(--line-soft);
  }
  .over {
    opacity: 0.65;
  }
  .act {
    text-align: right;
  }
  .leave {
    display: flex;
    flex-wrap: wrap;
    gap: 10px 14px;
    align-items: end;
    margin-top: 8px;
  }
  .leave :global(.time) {
    width: 120px;
  }
  .wide {
    flex-basis: 100%;
  }
</style>
