<script lang="ts">
  import { enhance } from '$app/forms';
  import { beforeNavigate } from '$app/navigation';
  import { getContext, untrack } from 'svelte';
  import { allSteps } from '$lib/core/rule/model.ts';
  import { leadWords } from '$lib/core/rule/read-back.ts';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import HushPart from '$lib/ui/hush/HushPart.svelte';
  import RingPart from '$lib/ui/rule/RingPart.svelte';
  import RuleForecast from '$lib/ui/rule/RuleForecast.svelte';
  import RuleState from '$lib/ui/rule/RuleState.svelte';
  import StepList from '$lib/ui/rule/StepList.svelte';
  import StopPart from '$lib/ui/rule/StopPart.svelte';
  import WatchPart from '$lib/ui/rule/WatchPart.svelte';
  import type { RuleForecastView } from '$lib/view/models.ts';
  import type { RuleFault } from '$lib/core/rule/check.ts';
  import type { ActionData, PageData } from './$types';

  let { data, form }: { data: PageData; form: ActionData } = $props();
  const announceDone = getContext<(done: Done) => void>('done');

  let input = $state(untrack(() => structuredClone(data.input)));
  let forecast = $state<RuleForecastView>(untrack(() => data.forecast));
  let pending = $state(false);
  /** What the server last had, to know whether something is unsaved. */
  let saved = $state(untrack(() => JSON.stringify(data.input)));

  const text = $derived(JSON.stringify(input));
  const unsaved = $derived(text !== saved);
  const refused = $derived(
    form && 'faults' in form
      ? { message: form.message ?? '', faults: form.faults ?? [], anyway: 'anyway' in form }
      : null
  );
  const faults = $derived<RuleFault[]>(
    refused ? refused.faults : forecast.faults.filter(({ code }) => !code.startsWith('rule-'))
  );
  const at = (part: RuleFault['part']) =>
    faults.filter((fault) => fault.part === part).map(({ message }) => message);

  // After saving or an undo the page holds what the server has. What it is read again for without a change, the clock for
  // one, must not touch what somebody is typing.
  let loaded = untrack(() => JSON.stringify(data.input));
  $effect(() => {
    const fresh = JSON.stringify(data.input);
    if (fresh === loaded) return;
    loaded = fresh;
    untrack(() => {
      input = structuredClone(data.input);
      saved = fresh;
      forecast = data.forecast;
    });
  });

  // What it would do follows every change, a moment after the last.
  $effect(() => {
    const body = text;
    if (body === untrack(() => saved)) return;
    const controller = new AbortController();
    const timer = setTimeout(() => void compute(body, controller.signal), 200);
    return () => {
      clearTimeout(timer);
      controller.abort();
    };
  });

  async function compute(body: string, signal: AbortSignal) {
    pending = true;
    try {
      const response = await fetch(`/rules/${data.id}/forecast`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body,
        signal
      });
      if (response.ok) forecast = (await response.json()) as RuleForecastView;
    } catch (error) {
      // Overtaken by a newer change: that one is computed instead.
      if (!signal.aborted) throw error;
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

  function done(result: Done) {
    saved = text;
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
  <div class="top">
    <p class="quiet">
      <a href="/rules">Rules</a>
      {#if data.wasLive}<span> · <a href="/rules/{data.id}/runs">its runs</a></span>{/if}
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
          class="button main"
          formaction="?/turnOn"
          disabled={data.state === 'on' && !data.drafted && !unsaved}
          >{data.state === 'on' ? 'Make it live' : 'Turn on'}</button
        >
      </span>
    </div>
    <p class="read">{forecast.sentence}</p>
    {#if data.fault}<p class="band brick mt-2">
        <b>Faulty</b><span>{data.fault} It does not ring until that is mended.</span>
      </p>{/if}
    {#if refused}<p class="band brick mt-2" role="alert">
        <b>{refused.message}</b><span
          >{refused.faults.length > 0 ? 'What is missing stands at its part.' : ''}
          {#if refused.anyway}<button class="button" formaction="?/turnOn" name="anyway" value="yes"
              >Make it live all the same</button
            >{/if}</span
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

    <RuleForecast {forecast} {pending} on={data.state === 'on'} />
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
  .columns {
    display: grid;
    grid-template-columns: minmax(0, 552px) minmax(0, 1fr);
    gap: 24px;
    margin-top: 12px;
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
