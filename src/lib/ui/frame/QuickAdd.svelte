<script lang="ts">
  import { tick } from 'svelte';
  import type { QuickView } from '$lib/view/quick-add.ts';

  /** A task from one line of plain words, read back as a sentence before it is saved. */
  interface Props {
    read: (line: string, answers: Record<string, number>) => Promise<QuickView | { message: string }>;
    add: (line: string, answers: Record<string, number>) => Promise<boolean>;
  }

  let { read, add }: Props = $props();
  let dialog: HTMLDialogElement | undefined = $state();
  let input: HTMLInputElement | undefined = $state();
  let line = $state('');
  let answers: Record<string, number> = $state({});
  let view: QuickView | null = $state.raw(null);
  let fault = $state('');
  let adding = $state(false);
  let asked = 0;
  let timer: ReturnType<typeof setTimeout> | undefined;

  export async function show() {
    dialog?.showModal();
    await tick();
    input?.focus();
    input?.select();
  }

  async function ask() {
    const own = ++asked;
    const answer = await read(line, answers);
    // A later line has overtaken this one.
    if (own !== asked) return;
    if ('message' in answer) fault = answer.message;
    else {
      view = answer;
      fault = '';
    }
  }

  function typed() {
    answers = {};
    clearTimeout(timer);
    timer = setTimeout(ask, 150);
  }

  async function submit(event: SubmitEvent) {
    event.preventDefault();
    clearTimeout(timer);
    await ask();
    if (!view || view.name === '' || view.questions.length > 0 || adding) return;
    adding = true;
    const done = await add(line, answers);
    adding = false;
    if (!done) return;
    line = '';
    view = null;
    answers = {};
    dialog?.close();
  }

  async function answer(about: string, choice: number) {
    answers = { ...answers, [about]: choice };
    await ask();
    input?.focus();
  }
</script>

<dialog bind:this={dialog} class="sheet" aria-label="Add a task in one line">
  <form onsubmit={submit}>
    <label class="field">
      <span class="label">Task, date, owner</span>
      <input
        bind:this={input}
        class="value line"
        bind:value={line}
        oninput={typed}
        autocomplete="off"
        maxlength="2000"
        placeholder="send the gauge log, fri 3pm, for Dale, high"
      />
    </label>
    <p class="sentence" role="status" aria-live="polite">
      {#if view?.sentence}{view.sentence}{:else}<span class="quiet"
          >Use commas. Day (fri, 5 march, in 5 working days), time, “for” owner, “in” project, priority,
          “tagged” tag, “every” week.</span
        >{/if}
    </p>
    {#if view && view.pieces.length > 0}
      <dl aria-label="What was understood">
        {#each view.pieces as { label, said, means } (said)}
          <div>
            <dt>{label}</dt>
            <dd>{means} <span class="quiet">“{said}”</span></dd>
          </div>
        {/each}
        <div>
          <dt>Name</dt>
          <dd>{view.name || 'none yet'}</dd>
        </div>
      </dl>
    {/if}
    {#each view?.questions ?? [] as { about, question, choices } (about)}
      <fieldset>
        <legend>{question}</legend>
        {#each choices as choice, i (choice)}
          <button type="button" class="button" onclick={() => answer(about, i)}>{choice}</button>
        {/each}
      </fieldset>
    {/each}
    {#if fault}<p class="fault" role="alert">{fault}</p>{/if}
    <p class="row">
      <button class="button main" disabled={!view || view.name === '' || view.questions.length > 0 || adding}
        >Add task</button
      >
      <button type="button" class="button" onclick={() => dialog?.close()}>Cancel</button>
      <a class="quiet" href="/tasks/new" onclick={() => dialog?.close()}>Open the full form</a>
    </p>
  </form>
</dialog>

<style>
  dialog {
    margin: 12vh auto auto;
    width: min(680px, calc(100vw - 32px));
    padding: 18px 20px;
    color: var(--ink);
    box-shadow: 0 18px 60px rgb(0 0 0 / 24%);
  }
  dialog::backdrop {
    background: rgb(27 43 51 / 30%);
  }
  form {
    display: grid;
    gap: 10px;
  }
  .line {
    font-size: 16px;
    min-height: 40px;
  }
  .sentence {
    min-height: 42px;
  }
  dl {
    display: grid;
    gap: 3px;
    font-size: 13px;
  }
  dl div {
    display: grid;
    grid-template-columns: 76px 1fr;
    gap: 8px;
  }
  dt {
    color: var(--ink-2);
  }
  dd {
    overflow-wrap: anywhere;
  }
  fieldset {
    display: flex;
    flex-wrap: wrap;
    gap: 6px;
  }
  legend {
    color: var(--ink-2);
    font-size: 12.5px;
    margin-bottom: 4px;
  }
  .row {
    display: flex;
    gap: 8px;
    align-items: center;
  }
</style>
