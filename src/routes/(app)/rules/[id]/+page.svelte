<script lang="ts">
  import { enhance } from '$app/forms';
  import { beforeNavigate } from '$app/navigation';
  import { getContext, onDestroy, untrack } from 'svelte';
  import { allSteps, type RuleDefinition } from '$lib/core/rule/model.ts';
  import { leadWords } from '$lib/core/rule/read-back.ts';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import { applyMend } from '$lib/core/lint/apply-mend.ts';
  import type { Mend } from '$lib/core/lint/model.ts';
  import BesidePart from '$lib/ui/rule/BesidePart.svelte';
  import CheckPart from '$lib/ui/rule/CheckPart.svelte';
  import TrialPart from '$lib/ui/rule/TrialPart.svelte';
  import { newPartId } from '$lib/ui/rule/choices.ts';
  import HushPart from '$lib/ui/hush/HushPart.svelte';
  import RingPart from '$lib/ui/rule/RingPart.svelte';
  import RuleForecast from '$lib/ui/rule/RuleForecast.svelte';
  import RuleState from '$lib/ui/rule/RuleState.svelte';
  import StepList from '$lib/ui/rule/StepList.svelte';
  import StopPart from '$lib/ui/rule/StopPart.svelte';
  import WatchPart from '$lib/ui/rule/WatchPart.svelte';
  import type { BesideView, CheckView, TrialView } from '$lib/view/rule-trials.ts';
  import type { RuleForecastView } from '$lib/view/models.ts';
  import type { RuleFault } from '$lib/core/rule/check.ts';
  import { OutlookClient } from './outlook.ts';
  import type { ActionData, PageData } from './$types';

  let { data, form }: { data: PageData; form: ActionData } = $props();
  const announceDone = getContext<(done: Done) => void>('done');

  let input = $state(untrack(() => structuredClone(data.input)));
  let forecast = $state<RuleForecastView>(untrack(() => data.forecast));
  let pending = $state(false);
  const outlook = new OutlookClient(untrack(() => data.id));
  onDestroy(() => outlook.close());
  /** Somebody wanted to turn it on and it was not whole: everything that is missing is said. */
  let asked = $state(false);
  /** For what the forecast stands. */
  let computed = untrack(() => JSON.stringify(data.input));
  /** What the server last had, to know whether something is unsaved. */
  let saved = $state(untrack(() => JSON.stringify(data.input)));

  const text = $derived(JSON.stringify(input));
  const unsaved = $derived(text !== saved);
  const refused = $derived(
    form && 'faults' in form
      ? {
          message: form.message ?? '',
          faults: form.faults ?? [],
          conflict: 'conflict' in form
        }
      : null
  );
  const faults = $derived<RuleFault[]>(
    asked
      ? forecast.faults
      : refused
        ? refused.faults
        : forecast.faults.filter(({ code }) => !code.startsWith('rule-'))
  );
  const at = (part: RuleFault['part']) =>
    faults.filter((fault) => fault.part === part).map(({ message }) => message);

  // After saving or an undo the page holds what the server has. What it is read again for without a change, the clock for
  // one, must not touch what somebody is typing.
  let loaded = untrack(() => JSON.stringify(data.input));
  $effect(() => {
    // Whatever made the page be read again may have changed what the rule is computed from.
    if (data.forecast) outlook.forget();
    const fresh = JSON.stringify(data.input);
    if (fresh === loaded) return;
    loaded = fresh;
    untrack(() => {
      // Somebody else has saved it: what is being written here stays, and saving it will say so.
      if (unsaved && fresh !== text) return;
      input = structuredClone(data.input);
      saved = fresh;
      forecast = data.forecast;
      computed = fresh;
      stamp = data.stamp;
    });
  });

  // What it would do follows every change, a moment after the last.
  $effect(() => {
    const body = text;
    if (body === computed) return;
    const controller = new AbortController();
    const timer = setTimeout(() => void compute(body, controller.signal), 60);
    return () => {
      clearTimeout(timer);
      controller.abort();
    };
  });

  async function compute(body: string, signal: AbortSignal) {
    pending = true;
    try {
      const view = await outlook.compute(JSON.parse(body) as typeof input);
      // Overtaken by a newer change: that one is computed instead.
      if (!view || signal.aborted) return;
      forecast = view;
      computed = body;
    } finally {
      pending = false;
    }
  }

  /** The blocks of an only Tell say what the whole rule comes to. */
  const counts = $derived.by(() => {
    const steps = allSteps(input.definition.steps);
    const tells = steps.filter(({ kind }) => kind === 'tell');
    const doing = steps.filter(({ kind }) => kind === 'do');
    const words: Record<string, string> = {};
    if (tells.length === 1) words[tells[0]!.id] = `${forecast.counts.people} people would hear`;
    if (doing.length === 1) words[doing[0]!.id] = `${forecast.acts} changes in four weeks`;
    return words;
  });

  /** What turning off would withdraw is listed first. */
  function confirmWithdrawn(event: MouseEvent, withdraws: PageData['withdraws']) {
    const waiting = withdraws.notices + withdraws.runs;
    if (waiting === 0) return;
    const listed = withdraws.listed.map(({ task, person }) => `• ${task}, to ${person}`).join('\n');
    const more = waiting > withdraws.listed.length ? `\nand ${waiting - withdraws.listed.length} more` : '';
    if (!confirm(`Turned off, it withdraws what waits, and does not make up for it:\n\n${listed}${more}`))
      event.preventDefault();
  }

  const SIDES = ['weeks', 'task', 'beside'] as const;
  const SIDE_WORDS = { weeks: 'Four weeks', task: 'Try on one task', beside: 'Beside the live one' } as const;
  let side = $state<(typeof SIDES)[number]>('weeks');
  let trial = $state<TrialView | null>(null);
  let beside = $state<BesideView | null>(null);
  let check = $state<CheckView | null>(null);
  let problem = $state('');
  /** By what the server knows that nobody has saved the rule since. */
  let stamp = $state(untrack(() => data.stamp));

  async function ask<T>(what: string): Promise<T | null> {
    problem = '';
    const response = await fetch(`/rules/${data.id}/${what}`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: text
    });
    const answer = (await response.json()) as T & { message?: string };
    if (response.ok) return answer;
    problem = answer.message ?? 'It could not be computed.';
    return null;
  }
  async function tryOn(taskId: number) {
    trial = await ask<TrialView>(`try?task=${taskId}`);
  }
  async function show(one: (typeof SIDES)[number]) {
    side = one;
    if (one === 'beside') beside = await ask<BesideView>('beside');
    if (one === 'task' && trial) await tryOn(trial.taskId);
  }
  async function askCheck() {
    if (check) return void (check = null);
    const answer = await ask<CheckView>('check');
    // What is not whole stands at its part from then on, and goes as it is mended.
    asked = answer !== null && answer.faults.length > 0;
    if (answer && asked) forecast = { ...forecast, faults: answer.faults };
    check = asked ? null : answer;
  }
  function mend(what: Mend) {
    input.definition = applyMend($state.snapshot(input.definition) as RuleDefinition, what, newPartId);
  }

  // What was tried, laid beside or checked follows what is written.
  $effect(() => {
    if (text === untrack(() => saved) && !untrack(() => trial ?? beside ?? check)) return;
    const timer = setTimeout(
      () =>
        untrack(async () => {
          if (side === 'task' && trial) await tryOn(trial.taskId);
          if (side === 'beside') beside = await ask<BesideView>('beside');
          if (check) check = await ask<CheckView>('check');
        }),
      250
    );
    return () => clearTimeout(timer);
  });

  function done(result: Done) {
    saved = text;
    check = null;
    announceDone(result);
  }

  beforeNavigate(({ cancel, willUnload }) => {
    if (!unsaved) return;
    if (willUnload) cancel();
    else if (!confirm('This rule has changes that are not saved. Leave it all the same?')) cancel();
  });
</script>

<svelte:head><title>{input.name || 'A new rule'} · Early Bell</title></svelte:head>

<form method="POST" action="?/save" use:enhance={submitDone(done)}>
  <input type="hidden" name="rule" value={text} />
  <input type="hidden" name="stamp" value={stamp} />
  <div class="top">
    <p class="quiet">
      <a href="/rules">Rules</a>
      {#if data.wasLive}<span> · <a href="/rules/{data.id}/runs">its runs</a></span>{/if}
      <span>
        · <a href="/rules/{data.id}/versions">versions</a> ·
        <a href="/rules/{data.id}/copy">duplicate</a></span
      >
    </p>
    <div class="titles">
      <label class="sr" for="rule-name">Name of the rule</label>
      <input
        id="rule-name"
        class="name"
        placeholder="Name this rule"
        maxlength="200"
        bind:value={input.name}
        aria-invalid={at('name').length > 0}
      />
      <RuleState state={data.state} />
      <span class="quiet"
        >version {data.version}{data.drafted ? ', a draft beside the live one' : ''}{data.keeper
          ? ` · kept by ${data.keeper}`
          : ''}{unsaved ? ' · not saved' : ''}</span
      >
      <span class="acts">
        {#if data.state === 'on'}<button
            class="button"
            formaction="?/turnOff"
            onclick={(event) => confirmWithdrawn(event, data.withdraws)}>Turn off</button
          >{/if}
        {#if !data.wasLive}<button class="button" formaction="?/discard">Throw away</button>{/if}
        <button class="button" formaction="?/save" disabled={!unsaved}
          >Save{data.state === 'on' ? ' as a draft' : ''}</button
        >
        <button
          type="button"
          class="button main"
          disabled={data.state === 'on' && !data.drafted && !unsaved}
          aria-expanded={check !== null}
          onclick={askCheck}>{data.state === 'on' ? 'Make it live…' : 'Turn on…'}</button
        >
      </span>
    </div>
    <p class="read">
      {forecast.sentence}
      {forecast.next.length > 0
        ? `It sends next on ${forecast.next.join('; ')}.`
        : 'In the next four weeks it sends nothing.'}
    </p>
    <details class="about">
      <summary class="quiet"
        >{input.description || 'say what it is for'}{input.group ? ` · in ${input.group}` : ''}</summary
      >
      <label>what it is for <input class="value" maxlength="2000" bind:value={input.description} /></label>
      <label>group <input class="value" maxlength="60" list="rule-groups" bind:value={input.group} /></label>
      <datalist id="rule-groups"
        >{#each data.groups as group (group)}<option value={group}></option>{/each}</datalist
      >
    </details>
    {#if check}<CheckPart
        {check}
        live={data.state === 'on'}
        past={input.definition.past.turnedOn}
        onpast={(turnedOn) => (input.definition.past = { ...input.definition.past, turnedOn })}
        onclose={() => (check = null)}
      />{/if}
    {#if data.fault}<p class="band brick mt-2">
        <b>Faulty</b><span>{data.fault} It does not ring until that is mended.</span>
      </p>{/if}
    {#if asked && faults.length > 0}<p class="band brick mt-2" role="alert">
        <b>It cannot be turned on yet.</b><span>What is missing stands at its part.</span>
      </p>{:else if refused}<p class="band brick mt-2" role="alert">
        <b>{refused.message}</b><span
          >{refused.faults.length > 0 ? 'What is missing stands at its part.' : ''}
          {#if refused.conflict}
            <a href="/rules/{data.id}/versions" target="_blank">See what they wrote</a>
            <button class="button" formaction="?/save" name="over" value="yes">Save mine over theirs</button>
          {/if}</span
        >
      </p>{/if}
    {#each at('name') as fault (fault)}<p class="fault">{fault}</p>{/each}
  </div>

  <div class="columns">
    <div class="parts">
      <WatchPart
        bind:definition={input.definition}
        choices={data.choices}
        watched={forecast.watched}
        faults={at('watch')}
      />
      <RingPart
        bind:definition={input.definition}
        choices={data.choices}
        bells={forecast.counts.bells}
        faults={at('ring')}
      />
      <StepList
        steps={input.definition.steps}
        leads={input.definition.leads.map((lead) => ({
          id: lead.id,
          label: leadWords(lead),
          kind: lead.kind
        }))}
        choices={data.choices}
        {faults}
        {counts}
        onchange={(steps) => (input.definition.steps = steps)}
      />
      {#each [...at('tell'), ...at('do')].filter((message) => !faults.some((fault) => fault.message === message && fault.step)) as fault, i (i)}
        <p class="fault" role="alert">{fault}</p>
      {/each}
      <StopPart bind:definition={input.definition} choices={data.choices} faults={at('stop')} />
    </div>

    <div class="outlook">
      <div class="sides" role="group" aria-label="What is looked at">
        <h2>What it will do</h2>
        {#each SIDES as one (one)}<button
            type="button"
            class="button"
            class:on={side === one}
            aria-pressed={side === one}
            onclick={() => show(one)}>{SIDE_WORDS[one]}</button
          >{/each}
      </div>
      {#if side === 'weeks'}<RuleForecast {forecast} {pending} on={data.state === 'on'} onmend={mend} />
      {:else if side === 'task'}<TrialPart
          tasks={data.tasks}
          {trial}
          {problem}
          ontry={(id) => void tryOn(id)}
        />
      {:else if beside}<BesidePart {beside} />
      {:else}<p class="quiet">
          {problem || 'No version of it is live, so there is nothing to lay it beside.'}
        </p>{/if}
    </div>
  </div>
</form>

{#if data.wasLive}<HushPart hush={data.hush} what="this rule" ondone={announceDone} />{/if}

<style>
  .titles {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 6px 12px;
  }
  .name {
    font:
      650 23px 'Bricolage Grotesque Variable',
      sans-serif;
    letter-spacing: -0.01em;
    background: none;
    border-bottom: 1px dashed var(--line);
    min-width: 220px;
    flex: 1 1 260px;
    max-width: 420px;
    padding: 1px 0;
  }
  .acts {
    margin-left: auto;
    display: flex;
    gap: 8px;
  }
  .read {
    color: var(--ink-2);
    max-width: 110ch;
    margin-top: 4px;
  }
  .about {
    font-size: 13px;
  }
  .about summary {
    cursor: pointer;
    width: fit-content;
    padding-top: 2px;
  }
  .about label {
    display: grid;
    grid-template-columns: 90px minmax(0, 560px);
    align-items: center;
    margin-top: 5px;
    color: var(--ink-3);
    font-size: 12.5px;
  }
  .columns {
    display: grid;
    grid-template-columns: minmax(0, 552px) minmax(0, 1fr);
    gap: 24px;
    margin-top: 12px;
  }
  .outlook {
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    gap: 8px;
    align-content: start;
    min-width: 0;
  }
  .sides {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 6px;
  }
  .sides h2 {
    margin-right: 6px;
  }
  .sides .on {
    background: var(--ink);
    color: var(--paper);
    border-color: var(--ink);
  }
  .parts {
    border-bottom: 1px solid var(--line);
    align-self: start;
  }
  @media (max-width: 1100px) {
    .columns {
      grid-template-columns: minmax(0, 1fr);
    }
  }
</style>
