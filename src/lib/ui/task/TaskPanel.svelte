<script lang="ts">
  import { many } from '$lib/core/many.ts';
  import { enhance } from '$app/forms';
  import { untrack } from 'svelte';
  import Effect from '$lib/ui/effect/Effect.svelte';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import type { EffectView } from '$lib/view/effects.ts';
  import type { LostFieldView, TaskDetailView } from '$lib/view/task-detail.ts';
  import type { TaskChoices, TaskFormView } from '$lib/view/tasks.ts';
  import ActBar from './ActBar.svelte';
  import BellsPart from './BellsPart.svelte';
  import QuietPart from './QuietPart.svelte';
  import RemindersPart from './RemindersPart.svelte';
  import RulesPart from './RulesPart.svelte';
  import SaidPart from './SaidPart.svelte';
  import SetAsidePart from './SetAsidePart.svelte';
  import SubtasksPart from './SubtasksPart.svelte';
  import TalkPart from './TalkPart.svelte';
  import TaskForm from './TaskForm.svelte';
  import TiesPart from './TiesPart.svelte';

  /** A task beside the list: its bells first, then everything that can be written about it. */
  interface Props {
    task: TaskDetailView;
    choices: TaskChoices;
    /** Which part the last answer was about. */
    part: string | null;
    errors: Record<string, string>;
    lost: readonly LostFieldView[];
    search: string;
    /** Asks what a change would do; gives back how to stop asking. */
    ask: (
      changed: Partial<TaskFormView>,
      answered: (answer: { moved: EffectView } | { error: string }) => void
    ) => () => void;
    ondone: (done: Done) => void;
  }

  let { task, choices, part, errors, lost, search, ask, ondone }: Props = $props();

  const copy = (values: TaskFormView) => JSON.parse(JSON.stringify(values)) as TaskFormView;
  /** The task as it was found, and as it is being written. */
  const found = untrack(() => copy(task.values));
  let base: TaskFormView = $state.raw(copy(found));
  let draft: TaskFormView = $state(copy(found));
  let moved: EffectView | null = $state.raw(null);
  let fault = $state('');
  /** What somebody else changed while this was being written. */
  let news: string[] = $state.raw([]);

  const KEYS = Object.keys(found) as (keyof TaskFormView)[];
  const same = (a: unknown, b: unknown) => JSON.stringify(a ?? null) === JSON.stringify(b ?? null);
  const changedKeys = $derived(KEYS.filter((key) => !same(draft[key], base[key])));

  // The task is read anew when somebody changes it: fields that are not being written follow, the others stay.
  let seen = JSON.stringify(found);
  $effect(() => {
    const text = JSON.stringify(task.values);
    if (text === seen) return;
    seen = text;
    const theirs = JSON.parse(text) as TaskFormView;
    const differing = KEYS.filter((key) => !same(theirs[key], base[key]));
    const mine = new Set(KEYS.filter((key) => !same(draft[key], base[key])));
    const next = copy(draft);
    for (const key of differing) if (!mine.has(key)) Object.assign(next, { [key]: theirs[key] });
    const clashing = differing.filter((key) => mine.has(key) && !same(theirs[key], draft[key]));
    news = clashing.length > 0 ? clashing : [];
    // What clashes keeps its old base, so that saving says who was first.
    const nextBase = { ...base };
    for (const key of differing) if (!clashing.includes(key)) Object.assign(nextBase, { [key]: theirs[key] });
    base = nextBase;
    draft = next;
  });

  const ASKED = [
    'dueDate',
    'dueTime',
    'startDate',
    'startTime',
    'remindDate',
    'remindTime',
    'ownerId',
    'otherOwnerIds',
    'statusId',
    'priority',
    'projectId',
    'private'
  ] as const satisfies readonly (keyof TaskFormView)[];
  let askedFor = '';
  $effect(() => {
    const changes = ASKED.filter((key) => !same(draft[key], base[key]));
    // A date is said with its time, so that one is not read without the other.
    const whole = ASKED.filter(
      (key) =>
        changes.includes(key) ||
        changes.some((one) => one.slice(0, 3) === key.slice(0, 3) && /Date|Time/.test(key))
    );
    const changed = Object.fromEntries(whole.map((key) => [key, draft[key]]));
    const text = JSON.stringify(changed);
    if (text === askedFor) return;
    askedFor = text;
    if (changes.length === 0) {
      moved = null;
      fault = '';
      return;
    }
    return ask(changed, (answer) => {
      moved = 'moved' in answer ? answer.moved : null;
      fault = 'error' in answer ? answer.error : '';
    });
  });

  const failing = $derived(part === 'task' || part === null ? errors : {});
  /** The status was refused, and there is something that keeps it from being finished. */
  const openBelow = $derived(
    failing.statusId !== undefined && task.row.subtasks.done < task.row.subtasks.all
  );
  function takeMine(field: LostFieldView) {
    Object.assign(draft, field.values);
    base = {
      ...base,
      ...Object.fromEntries(
        Object.keys(field.values).map((key) => [key, task.values[key as keyof TaskFormView]])
      )
    };
  }
</script>

<header>
  {#if task.parent}<p class="quiet">
      Subtask of <a href="/tasks/{task.parent.id}{search}">{task.parent.name}</a>
    </p>{/if}
  <!-- Where the list beside it is not shown, its heading is not there either. -->
  <h1 class="alone"><span class="sr">A task</span></h1>
  <h2 class="title" dir="auto">{task.row.name}</h2>
  <p>
    <span class:brick-text={task.row.overdue}>{task.row.left ?? task.row.status}</span>
    {#if task.row.dueHere && task.row.left}<span> · {task.row.due} {task.row.dueHere}</span>{/if}
    {#if task.originalDue}<span class="quiet">
        · first due {task.originalDue}, postponed {many(task.row.slips, 'time')}</span
      >{/if}
    <span class="quiet"> · created {task.created} by {task.creator}</span>
    {#if task.finished}<span class="quiet"> · finished {task.finished}</span>{/if}
  </p>
  <ActBar {task} {choices} {search} {ask} {ondone} />
  {#if task.row.setAside}<p class="band">
      <b>{task.row.setAside}</b><span
        >No rule watches it.{task.row.asideUntil
          ? task.row.setAside === 'binned'
            ? ` It is erased on ${task.row.asideUntil}.`
            : ` ${task.parked ?? ''}`
          : ''}</span
      >
    </p>{/if}
  {#each task.deadlines as { field, words, overdue, met } (field)}
    <p class="quiet">
      {field}: <span class:brick-text={overdue} class:sea-text={met}>{words}</span>
    </p>
  {/each}
  {#if task.dueMoment}
    <details class="quiet">
      <summary>Overdue {task.row.overdue ? 'since' : 'from'} {task.dueMoment} · Why?</summary>
      <ol>
        {#each task.dueWhy as step, i (i)}<li>{step}</li>{/each}
      </ol>
    </details>
  {/if}
</header>

<section class="part" aria-label="Bells">
  <BellsPart {task} />
  <SaidPart {task} errors={part === 'said' ? errors : {}} {ondone} />
  <QuietPart {task} errors={part === 'quiet' ? errors : {}} {ondone} />
  <RemindersPart {task} errors={part === 'reminder' ? errors : {}} {ondone} />
  <RulesPart rules={task.rules} />
</section>

<section class="part" aria-label="Details">
  {#each lost as field (field.label)}
    <p class="band brick" role="alert">
      <b>{field.label}</b><span
        >{field.by} set “{field.theirs}” while you were editing. Your “{field.yours}” was not saved.
        <button type="button" class="button plain" onclick={() => takeMine(field)}>Save mine</button></span
      >
    </p>
  {/each}
  {#if news.length > 0 && lost.length === 0}<p class="band">
      <b>Changed by others</b><span
        >Somebody else changed this field. If you save, their value stays and you are told.</span
      >
    </p>{/if}
  <form
    method="POST"
    action="/tasks/{task.id}{search ? `${search}&` : '?'}/save"
    use:enhance={submitDone(ondone)}
  >
    <input type="hidden" name="task" value={JSON.stringify(draft)} />
    <input type="hidden" name="base" value={JSON.stringify(base)} />
    <fieldset disabled={!task.editable} class="grid gap-3">
      <TaskForm bind:draft {choices} errors={failing} nextRound={task.nextRound} />
      {#if openBelow}
        <label class="check"
          ><input type="checkbox" name="withSubtasks" value="yes" /> Finish open subtasks too</label
        >
      {/if}
      {#if fault}<p class="fault" role="alert">{fault}</p>{/if}
      {#if moved}
        <div class="effect" role="status">
          <h3>Effect of this change</h3>
          <Effect effect={moved} />
        </div>
      {/if}
      {#if task.editable}<p class="flex gap-2">
          <button class="button main">Save</button>{#if changedKeys.length > 0}<button
              type="button"
              class="button"
              onclick={() => (draft = copy(base))}>Discard changes</button
            >{/if}
        </p>{/if}
    </fieldset>
    {#if !task.editable && !task.row.setAside}<p class="quiet">
        Read only. The owner or a coordinator can change this task.
      </p>{/if}
  </form>
</section>

<SubtasksPart {task} {search} errors={part === 'subtask' ? errors : {}} {ondone} />
<TalkPart {task} {part} {errors} {ondone} />
<TiesPart {task} {choices} {search} errors={part === 'link' ? errors : {}} {ondone} />
<SetAsidePart {task} errors={part === 'park' ? errors : {}} {ondone} />

<section class="part" aria-label="History">
  <details>
    <summary><h3>History</h3></summary>
    {#if task.slips.length > 0}
      <h4>Postponed</h4>
      <ul class="lines">
        {#each task.slips as slip, i (i)}
          <li><span class="quiet">{slip.at}</span> {slip.by}: from {slip.from} to {slip.to}</li>
        {/each}
      </ul>
    {/if}
    {#if task.rounds.length > 0}
      <h4>Earlier rounds</h4>
      <ul class="lines">
        {#each task.rounds as round (round.round)}
          <li>
            Round {round.round}{round.due ? `, due ${round.due}` : ''}: {round.finished
              ? `finished ${round.finished}`
              : 'not finished'}{round.skipped.length > 0 ? `; skipped: ${round.skipped.join(', ')}` : ''}
          </li>
        {/each}
      </ul>
    {/if}
    <ul class="lines">
      {#each task.record as line, i (i)}
        <li>
          <span class="quiet">{line.at}</span>
          {line.by}{line.source ? ` (${line.source})` : ''}:
          {#if line.changes.length === 0}{line.title}{:else}{#each line.changes as { field, before, after }, j (field)}{j >
              0
                ? '; '
                : ''}<b>{field}</b> from {before} to {after}{/each}{/if}
        </li>
      {/each}
    </ul>
  </details>
</section>

<style>
  .alone {
    display: none;
  }
  @media (max-width: 1000px) {
    .alone {
      display: block;
    }
  }
  .title {
    font-size: 20px;
    overflow-wrap: anywhere;
    padding-right: 36px;
  }
  header {
    display: grid;
    gap: 4px;
    margin-bottom: 12px;
  }
  .part {
    border-top: 1px solid var(--line);
    padding: 12px 0 14px;
  }
  h3 {
    font:
      650 14.5px/1.25 'Bricolage Grotesque Variable',
      sans-serif;
    margin-bottom: 6px;
    display: inline-block;
  }
  h4 {
    font-weight: 600;
    font-size: 13px;
  }
  summary {
    cursor: pointer;
    width: fit-content;
  }
  ol {
    list-style: decimal;
    padding-left: 34px;
  }
  .lines {
    font-size: 13px;
    display: grid;
    gap: 3px;
    margin: 6px 0;
    overflow-wrap: anywhere;
  }
  .effect {
    border-left: 3px solid var(--brass);
    padding-left: 12px;
  }
  .check {
    display: flex;
    gap: 8px;
    font-size: 13px;
  }
</style>
