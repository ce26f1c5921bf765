<script lang="ts">
  import { getContext, tick, untrack } from 'svelte';
  import { goto } from '$app/navigation';
  import { many } from '$lib/core/many.ts';
  import type { ChoiceView, RoundSheet } from '$lib/view/desk.ts';
  import RoundAside from './RoundAside.svelte';
  import RoundAsks from './RoundAsks.svelte';
  import RoundDays from './RoundDays.svelte';
  import { asksMore, type Decision } from './round.ts';
  import { readJson, type Send } from '$lib/ui/form/send.ts';
  import type { Done } from '$lib/ui/form/submit.ts';

  interface Decided {
    id: number;
    words: string;
    /** Null where nothing was written. */
    changeId: number | null;
  }

  /** One decision after another: what came in, or what is left of today. It can be left at any moment, and goes on from where it was. */
  interface Props {
    kind: 'placing' | 'evening';
    ids: readonly number[];
    today: string;
    personId: number;
  }

  let { kind, ids: found, today, personId }: Props = $props();
  /** As they were when it began: what is undone or comes in meanwhile is for the next round. */
  const ids = untrack(() => [...found]);
  const send = getContext<Send>('send');
  const done = getContext<(done: Done) => void>('done');

  let at = $state(0);
  let sheet = $state.raw<RoundSheet | null>(null);
  let gone = $state<string | null>(null);
  /** The choice that asks for something more before it is done. */
  let open = $state.raw<ChoiceView | null>(null);
  let decided = $state.raw<Decided[]>([]);
  let isSending = $state(false);
  let choices = $state<HTMLElement>();

  const id = $derived(ids[at]);
  const isOver = $derived(at >= ids.length);
  const title = $derived(kind === 'placing' ? 'To place' : 'Evening round');

  $effect(() => {
    const task = id;
    if (task === undefined) return;
    sheet = null;
    gone = null;
    open = null;
    void readJson<RoundSheet>(`/desk/sheet?task=${task}&round=${kind}`).then(async (found) => {
      if (task !== id) return;
      if (found) sheet = found;
      else gone = 'This task is not on your Desk any more, or cannot be read now.';
      await tick();
      choices?.querySelector<HTMLElement>('button')?.focus();
    });
  });

  function choose(choice: ChoiceView) {
    if (isSending || id === undefined) return;
    if (asksMore(choice)) open = choice;
    else if (choice.passes) decide({ id, words: `“${sheet!.task.name}” left in Today`, changeId: null });
    else void does({ act: 'place', body: { taskIds: [id], to: choice.to, day: choice.day } });
  }

  async function does({ act, body }: Decision) {
    if (isSending || id === undefined) return;
    isSending = true;
    const answer = await send<{ message: string; changeId?: number }>('/desk/acts', { act, ...body });
    isSending = false;
    if ('failed' in answer) return;
    const { message, changeId } = answer;
    done({ done: message, ...(changeId === undefined ? {} : { changeId }) });
    decide({ id, words: message, changeId: changeId ?? null });
  }

  function decide(one: Decided) {
    decided = [...decided.filter((before) => before.id !== one.id), one];
    at++;
  }

  /** A step back takes back what was decided there. */
  async function back() {
    if (at === 0 || isSending) return;
    const before = decided.find((one) => one.id === ids[at - 1]);
    if (before && before.changeId !== null) {
      const answer = await send<{ message: string }>('/undo', { changeId: before.changeId });
      if ('failed' in answer) return;
    }
    decided = decided.filter((one) => one !== before);
    at--;
  }

  const leave = () => goto('/desk');

  function onkeydown(event: KeyboardEvent) {
    if (event.ctrlKey || event.metaKey || event.altKey || event.defaultPrevented) return;
    const { target } = event;
    const isTyping =
      target instanceof HTMLElement &&
      target.closest('input, textarea, select, [role="grid"], [role="dialog"]');
    if (event.key === 'Escape') {
      event.preventDefault();
      if (open) closeChoice();
      else if (!isTyping) void leave();
      return;
    }
    if (isTyping || open) return;
    if (event.key === 'Backspace') {
      event.preventDefault();
      void back();
    }
    if (!sheet) return;
    const choice = sheet.choices.find(({ key }) => key === event.key.toUpperCase());
    if (choice) {
      event.preventDefault();
      event.stopPropagation();
      choose(choice);
    } else if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      const buttons = [...(choices?.querySelectorAll<HTMLElement>('.choice') ?? [])];
      const now = buttons.indexOf(target as HTMLElement);
      if (now < 0) return;
      event.preventDefault();
      buttons[now + (event.key === 'ArrowDown' ? 1 : -1)]?.focus();
    }
  }

  function closeChoice() {
    const key = open?.key;
    open = null;
    void tick().then(() => choices?.querySelector<HTMLElement>(`[data-key="${key}"]`)?.focus());
  }
</script>

<!-- Before the frame hears it: here N is the next working day. -->
<svelte:document {onkeydown} />

<div class="head">
  <h1>{title}</h1>
  <span class="steps" role="status"
    >{isOver ? `${ids.length} of ${ids.length}` : `${at + 1} of ${ids.length}`}, {many(
      Math.max(0, ids.length - at),
      'task'
    )} left</span
  >
  <span class="ways">
    <button class="button plain" disabled={at === 0} onclick={() => void back()}>Back one</button>
    <a class="button plain" href="/desk#{kind === 'placing' ? 'to-place' : 'today'}">Show as a list</a>
    <button class="button" onclick={() => void leave()}>Leave the round <kbd>Esc</kbd></button>
  </span>
</div>

<div class="round">
  <div class="one">
    {#if isOver}
      <h2>{ids.length === 0 ? 'Nothing is left here' : 'That was all'}</h2>
      <p>
        {kind === 'placing'
          ? 'Everything that came in has its place.'
          : 'Nothing is left of today that you have not looked at.'}
      </p>
      <p><a class="button main" href="/desk">To your Desk</a></p>
    {:else if gone}
      <p class="fault" role="alert">{gone}</p>
      <p><button class="button main" onclick={() => at++}>Go on with the next</button></p>
    {:else if !sheet}
      <p class="quiet" aria-live="polite">Reading…</p>
    {:else}
      {@const { task } = sheet}
      <h2 class="name"><a href="/tasks/{task.id}">{task.name}</a></h2>
      <p class="facts">
        <b>{sheet.due}</b>{#if task.note}, {task.note}{/if}
        {#each [task.of, task.priority, task.status, task.from] as fact, i (i)}{#if fact}<span>
              · {fact}</span
            >{/if}{/each}
      </p>
      {#if sheet.description}<p class="description">{sheet.description}</p>{/if}
      <ul class="choices" bind:this={choices} aria-label="What to do with it">
        {#each sheet.choices as choice (choice.key)}
          <li>
            <button
              class="choice"
              class:open={open === choice}
              data-key={choice.key}
              aria-keyshortcuts={choice.key.toLowerCase()}
              disabled={isSending}
              onclick={() => choose(choice)}
            >
              <kbd>{choice.key}</kbd>
              <b>{choice.label}</b>
              <span class="when">{choice.when}</span>
              <span class="note"
                >{choice.note}{#if choice.asksDue}; after its due date: you are asked for a new one{/if}</span
              >
            </button>
            {#if open === choice}
              <RoundAsks
                {task}
                {choice}
                {today}
                {personId}
                ondecide={(decision) => void does(decision)}
                oncancel={closeChoice}
              />
            {/if}
          </li>
        {/each}
      </ul>
      <p class="quiet">
        A planned day is yours alone. The due date and its notices stay as they are. Undo with Ctrl+Z.
      </p>
      <RoundDays days={sheet.days} hours={sheet.hours} />
    {/if}
  </div>
  <RoundAside sheet={isOver ? null : sheet} {decided} />
</div>

<style>
  .head {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 6px 14px;
    padding-bottom: 10px;
    border-bottom: 1px solid var(--line);
  }
  .steps {
    font-weight: 600;
  }
  .ways {
    display: flex;
    flex-wrap: wrap;
    gap: 6px;
    margin-left: auto;
  }
  .round {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 300px;
    gap: 28px;
    margin-top: 14px;
    max-width: 1120px;
  }
  .name {
    font-size: 19px;
  }
  .name a {
    text-decoration: none;
  }
  .facts {
    margin-top: 4px;
    color: var(--ink-2);
  }
  .facts b {
    color: var(--ink);
  }
  .description {
    margin-top: 6px;
    max-width: 68ch;
    white-space: pre-line;
  }
  .choices {
    margin: 14px 0 10px;
  }
  .choice {
    display: grid;
    grid-template-columns: 38px 200px 150px minmax(0, 1fr);
    gap: 2px 10px;
    align-items: center;
    width: 100%;
    min-height: 46px;
    padding: 4px 8px;
    border-bottom: 1px solid var(--line-soft);
    text-align: left;
    cursor: pointer;
  }
  .choice:hover,
  .choice:focus-visible,
  .open {
    background: var(--lit);
  }
  .when {
    font-weight: 550;
  }
  .note {
    color: var(--ink-2);
    font-size: 12.5px;
  }
  kbd {
    justify-self: start;
    border: 1px solid var(--line);
    border-radius: 5px;
    padding: 2px 7px;
    background: var(--sheet);
    color: var(--ink);
    font: inherit;
    font-weight: 600;
    font-size: 12px;
  }
  @media (max-width: 900px) {
    .round {
      grid-template-columns: minmax(0, 1fr);
      gap: 16px;
    }
    .choice {
      grid-template-columns: 34px minmax(0, 1fr) auto;
    }
    .note {
      grid-column: 2 / -1;
    }
    .ways {
      margin-left: 0;
    }
    .ways .button {
      min-height: 44px;
    }
    .ways kbd {
      display: none;
    }
  }
</style>
