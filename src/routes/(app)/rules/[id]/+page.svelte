<script lang="ts">
  import { nextWords } from '$lib/ui/rule/next-words.ts';
  import { leadInShort } from '$lib/core/rule/words/lead-words.ts';
  import { enhance } from '$app/forms';
  import { browser } from '$app/environment';
  import { invalidateAll } from '$app/navigation';
  import type { Send } from '$lib/ui/form/send.ts';
  import { getContext, onDestroy } from 'svelte';
  import type { RuleFault } from '$lib/core/rule/rule-fault.ts';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import Sides from '$lib/ui/parts/Sides.svelte';
  import { Later } from '$lib/ui/later/later.svelte.ts';
  import HushPart from '$lib/ui/hush/HushPart.svelte';
  import BesidePart from '$lib/ui/rule/BesidePart.svelte';
  import CheckPart from '$lib/ui/rule/CheckPart.svelte';
  import HindsightPart from '$lib/ui/rule/HindsightPart.svelte';
  import RingPart from '$lib/ui/rule/RingPart.svelte';
  import RuleForecast from '$lib/ui/rule/RuleForecast.svelte';
  import RuleSentence from '$lib/ui/rule/RuleSentence.svelte';
  import StepList from '$lib/ui/rule/StepList.svelte';
  import StopPart from '$lib/ui/rule/StopPart.svelte';
  import TurnOff from '$lib/ui/rule/TurnOff.svelte';
  import TrialPart from '$lib/ui/rule/TrialPart.svelte';
  import WatchPart from '$lib/ui/rule/WatchPart.svelte';
  import { EditedRule, SIDES, type Side } from './edited-rule.svelte.ts';
  import RuleBands from './RuleBands.svelte';
  import RuleTitle from './RuleTitle.svelte';
  import RuleAbout from './RuleAbout.svelte';
  import type { ActionData, PageData } from './$types';

  let { data, form }: { data: PageData; form: ActionData } = $props();
  const announceDone = getContext<(done: Done) => void>('done');

  const edited = new EditedRule(() => data);
  const toTry = new Later(
    () => data.tasks,
    () => data.id
  );
  const refused = $derived(
    form && 'faults' in form
      ? { message: form.message ?? '', faults: form.faults ?? [], conflict: 'conflict' in form }
      : null
  );
  const faults = $derived(edited.faults(refused?.faults ?? null));
  const at = (part: RuleFault['part']) =>
    faults.filter((fault) => fault.part === part).map(({ message }) => message);
  const definition = $derived(edited.input.definition);

  /** Turning it off is asked for: what that would end is shown first. */
  let ending = $state(false);

  const SIDE_WORDS: Record<Side, string> = {
    weeks: 'Next four weeks',
    task: 'Try on one task',
    beside: 'Compare with live',
    past: 'Last four weeks'
  };

  edited.draft.guard('This rule');

  const send = getContext<Send>('send');
  const isNameless = $derived(data.state === 'draft' && !data.wasLive && data.input.name === '');
  /** Whoever leaves a rule that has no name yet has thought better of it; its own pages are no leaving. */
  onDestroy(() => {
    if (!browser || !isNameless || location.pathname.startsWith(`/rules/${data.id}`)) return;
    void send<{ message: string; changeId: number } | null>(`/rules/${data.id}/nameless`, {}).then(
      async (thrown) => {
        if (!thrown || 'failed' in thrown) return;
        announceDone({ done: thrown.message, changeId: thrown.changeId });
        await invalidateAll();
      }
    );
  });
</script>

<svelte:head><title>{edited.input.name || 'A new rule'} · Early Bell</title></svelte:head>

<form
  method="POST"
  action="?/save"
  use:enhance={submitDone(announceDone, undefined, (sent) => edited.markSaved(String(sent.get('rule'))))}
>
  <input type="hidden" name="rule" value={edited.text} />
  <input type="hidden" name="stamp" value={edited.stamp} />
  <div class="top">
    <p class="quiet">
      <a href="/rules">Rules</a>
      {#if data.wasLive}<span> · <a href="/rules/{data.id}/runs">Runs</a></span>{/if}
      <span>
        · <a href="/rules/{data.id}/versions">Versions</a> ·
        <a href="/rules/{data.id}/copy">Copy</a></span
      >
    </p>
    <RuleTitle {data} {edited} {faults} bind:ending />
    <div class="read"><RuleSentence parts={edited.forecast.sentence} /></div>
    <p class="next">
      {#if edited.fault}<span class="quiet">The next send time is not known.</span>
      {:else if edited.isBrief}<span class="quiet">Computing the next send time…</span>
      {:else}{nextWords(edited.forecast, definition)}{/if}
    </p>
    <RuleAbout {edited} groups={data.groups} />
    {#if edited.check}<CheckPart
        check={edited.check}
        live={data.state === 'on'}
        past={definition.past.turnedOn}
        onpast={(turnedOn) => (edited.input.definition.past = { ...definition.past, turnedOn })}
        onclose={() => (edited.check = null)}
      />{/if}
    {#if ending && data.state === 'on'}<TurnOff ruleId={data.id} onclose={() => (ending = false)} />{/if}
    <RuleBands {data} {edited} {faults} {refused} />
    {#each at('name') as fault (fault)}<p class="fault">{fault}</p>{/each}
  </div>

  <div class="columns">
    <div class="parts">
      <WatchPart
        bind:definition={edited.input.definition}
        choices={data.choices}
        watched={edited.isBrief ? null : edited.forecast.watched}
        faults={at('watch')}
      />
      <RingPart
        bind:definition={edited.input.definition}
        choices={data.choices}
        bells={edited.isBrief ? null : edited.forecast.counts.bells}
        faults={at('ring')}
      />
      <StepList
        steps={definition.steps}
        shared={{
          leads: definition.leads.map((lead) => ({ id: lead.id, label: leadInShort(lead) })),
          choices: data.choices,
          faults,
          counts: edited.isBrief ? {} : edited.counts,
          words: edited.words,
          tasks: toTry.value ?? [],
          ontask: (id) => (edited.wordsTask = id)
        }}
        onchange={(steps) => (edited.input.definition.steps = steps)}
      />
      {#each [...at('tell'), ...at('do')].filter((message) => !faults.some((fault) => fault.message === message && fault.step)) as fault, i (i)}
        <p class="fault" role="alert">{fault}</p>
      {/each}
      <StopPart
        stopped={edited.isBrief ? null : edited.forecast.stopped}
        bind:definition={edited.input.definition}
        choices={data.choices}
        faults={at('stop')}
      />
    </div>

    <div class="outlook">
      <h2>What it will do</h2>
      <Sides
        label="What is looked at"
        sides={SIDES.map((value) => ({ value, label: SIDE_WORDS[value] }))}
        value={edited.side}
        onchange={(side) => edited.show(side)}
      >
        {#if edited.side === 'weeks' && edited.fault}<p class="band brick" role="alert">
            <b>The forecast could not be calculated.</b><span
              >{edited.fault}
              <button type="button" class="button" onclick={() => edited.tryAgain()}>Try again</button></span
            >
          </p>
        {:else if edited.side === 'weeks' && edited.isBrief}<p class="quiet waits" aria-live="polite">
            Computing the next four weeks…
          </p>
        {:else if edited.side === 'weeks'}<RuleForecast
            forecast={edited.forecast}
            pending={edited.pending}
            sendsLatest={data.state !== 'on' && definition.past.turnedOn !== 'do not ring'}
            onmend={(mend) => edited.mend(mend)}
          />
        {:else if edited.side === 'task'}<TrialPart
            tasks={toTry.value}
            trial={edited.trial}
            problem={edited.problem}
            ontry={(id) => void edited.tryOn(id)}
            onsend={(key) => edited.sendToMe(key)}
          />
        {:else if edited.side === 'past'}<HindsightPart
            past={edited.past?.view ?? null}
            looking={edited.looking}
            stale={edited.past?.text !== edited.text}
            problem={edited.problem}
            onlook={() => void edited.lookBack()}
            onleave={() => edited.leavePast()}
          />
        {:else if edited.beside}<BesidePart beside={edited.beside} />
        {:else}<p class="quiet">
            {edited.problem || 'No live version to compare with.'}
          </p>{/if}
      </Sides>
    </div>
  </div>
</form>

{#if data.wasLive}<HushPart hush={data.hush} what="this rule" ondone={announceDone} />{/if}

<style>
  .waits {
    min-height: 460px;
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
  .outlook {
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    gap: 8px;
    align-content: start;
    min-width: 0;
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
