<script lang="ts">
  import { enhance } from '$app/forms';
  import { replaceState } from '$app/navigation';
  import { page } from '$app/state';
  import { tick } from 'svelte';
  import Effect from '$lib/ui/effect/Effect.svelte';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import DateField from '$lib/ui/form/date/DateField.svelte';
  import type { EffectView } from '$lib/view/effects.ts';
  import type { TaskDetailView } from '$lib/view/task-detail.ts';
  import type { TaskChoices, TaskFormView } from '$lib/view/tasks.ts';
  import { actAsked, actsOn, keyOfAct, notNow, statusFor, type TaskAct } from './task-acts.ts';

  /** What is most often done with a task, each by one press or one key; the parts further down do the same at leisure. */
  interface Props {
    task: TaskDetailView;
    choices: TaskChoices;
    search: string;
    /** Asks what a change would do; gives back how to stop asking. */
    ask: (
      changed: Partial<TaskFormView>,
      answered: (answer: { moved: EffectView } | { error: string }) => void
    ) => () => void;
    ondone: (done: Done) => void;
  }

  let { task, choices, search, ask, ondone }: Props = $props();

  let bar: HTMLElement;
  let saving = $state<Partial<TaskFormView>>({});
  let form: HTMLFormElement;
  /** The date that is being chosen; null while none is. */
  let date = $state<string | null>(null);
  let moved: EffectView | null = $state.raw(null);
  let fault = $state('');

  const acts = $derived(actsOn(task));

  $effect(() => {
    moved = null;
    fault = '';
    if (date === null || date === (task.values.dueDate ?? '')) return;
    return ask(dated(date), (answer) => {
      moved = 'moved' in answer ? answer.moved : null;
      fault = 'error' in answer ? answer.error : '';
    });
  });

  // Somebody came here from a row to do just that.
  $effect(() => {
    const act = actAsked(page.url.hash);
    if (!act) return;
    replaceState(page.url.pathname + page.url.search, {});
    if (acts.some(({ name }) => name === act)) void tick().then(() => does(act));
    else ondone({ done: notNow(act) });
  });

  function dated(day: string): Partial<TaskFormView> {
    return { dueDate: day || null, dueTime: day ? task.values.dueTime : null };
  }

  async function save(changed: Partial<TaskFormView>) {
    saving = changed;
    await tick();
    form.requestSubmit();
  }

  function does(act: TaskAct) {
    if (act === 'finish' || act === 'open again' || act === 'stuck') {
      const statusId = statusFor(act, choices.statuses);
      if (statusId !== null) void save({ statusId });
    } else if (act === 'change date') date = date === null ? (task.values.dueDate ?? '') : null;
    else openPart(act);
  }

  /** Opens the part further down that does it, and puts the keyboard there. */
  function openPart(act: TaskAct) {
    const part = bar.ownerDocument.querySelector<HTMLElement>(`[data-act="${act}"]`);
    if (!part) return;
    if (part instanceof HTMLDetailsElement) part.open = true;
    part.scrollIntoView({ block: 'center' });
    const first = part.querySelector<HTMLElement>('input:not([type="hidden"]), select, textarea');
    // What has just been opened can be entered from the next frame on.
    requestAnimationFrame(() => first?.focus());
  }

  function onkeydown(event: KeyboardEvent) {
    const typing =
      event.target instanceof HTMLElement &&
      event.target.closest('input, textarea, select, [contenteditable], [role="grid"], [role="dialog"]');
    if (typing || event.ctrlKey || event.metaKey || event.altKey) return;
    const act = acts.find(({ name }) => keyOfAct(name) === event.key);
    if (!act) return;
    event.preventDefault();
    does(act.name);
  }
</script>

<svelte:window {onkeydown} />

<div class="acts no-print" role="toolbar" aria-label="Do with this task" bind:this={bar}>
  {#each acts as { name, words } (name)}
    <button
      class="button"
      class:main={name === 'finish'}
      aria-keyshortcuts={keyOfAct(name)}
      aria-expanded={name === 'change date' ? date !== null : undefined}
      onclick={() => does(name)}>{words}</button
    >
  {/each}
</div>
<form
  bind:this={form}
  method="POST"
  action="/tasks/{task.id}{search ? `${search}&` : '?'}/save"
  use:enhance={submitDone((done) => {
    date = null;
    ondone(done);
  })}
>
  <input type="hidden" name="task" value={JSON.stringify({ ...task.values, ...saving })} />
  <input type="hidden" name="base" value={JSON.stringify(task.values)} />
</form>
{#if date !== null}
  <div class="date">
    <DateField
      label="New due date"
      value={date}
      of={{ task: { owner: task.values.ownerId, project: task.values.projectId } }}
      atOnce
      live
      onchange={(day) => (date = day ?? '')}
    />
    <button
      class="button main"
      disabled={date === (task.values.dueDate ?? '')}
      onclick={() => date !== null && save(dated(date))}>Save date</button
    >
    <button class="button" onclick={() => (date = null)}>Cancel</button>
    {#if fault}<p class="fault" role="alert">{fault}</p>{/if}
    {#if moved}<div class="effect" role="status"><Effect effect={moved} /></div>{/if}
  </div>
{/if}

<style>
  .acts,
  .date {
    display: flex;
    flex-wrap: wrap;
    gap: 6px;
    margin-top: 6px;
  }
  .effect {
    flex-basis: 100%;
    border-left: 3px solid var(--brass);
    padding-left: 12px;
  }
</style>
