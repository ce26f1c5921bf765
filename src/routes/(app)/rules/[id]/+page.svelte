<script lang="ts">
  import { enhance } from '$app/forms';
  import { beforeNavigate } from '$app/navigation';
  import { getContext, untrack } from 'svelte';
  import Plus from '@lucide/svelte/icons/plus';
  import { defaultClosedDay } from '$lib/core/ring/lead.ts';
  import { MOST_LEADS, PHASES, PRIORITIES, type Lead, type ZoneChoice } from '$lib/core/rule/model.ts';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import Choices from '$lib/ui/rule/Choices.svelte';
  import LeadRow from '$lib/ui/rule/LeadRow.svelte';
  import Line from '$lib/ui/rule/Line.svelte';
  import Part from '$lib/ui/rule/Part.svelte';
  import RuleForecast from '$lib/ui/rule/RuleForecast.svelte';
  import RuleState from '$lib/ui/rule/RuleState.svelte';
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
  let lastWords = $state<'subject' | 'body'>('body');

  const text = $derived(JSON.stringify(input));
  const unsaved = $derived(text !== saved);
  const zone = $derived<ZoneChoice>(input.definition.leads[0]?.zone ?? { of: 'recipient' });
  const refused = $derived(
    form && 'faults' in form ? { message: form.message ?? '', faults: form.faults ?? [] } : null
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

  function addLead() {
    const n = -2;
    const lead: Lead = {
      id: `new-${Date.now()}`,
      anchor: 'due',
      n,
      unit: 'workday',
      closedDay: defaultClosedDay(n, 'workday'),
      time: data.noticeTime,
      zone,
      on: true
    };
    input.definition.leads = [...input.definition.leads, lead];
  }

  function setZone(next: ZoneChoice) {
    input.definition.leads = input.definition.leads.map((lead) => ({ ...lead, zone: next }));
  }

  function insertField(name: string) {
    const element = document.getElementById(`words-${lastWords}`) as HTMLInputElement | HTMLTextAreaElement;
    const start = element.selectionStart ?? element.value.length;
    const end = element.selectionEnd ?? start;
    const field = `‹${name}›`;
    input.definition.tell[lastWords] = element.value.slice(0, start) + field + element.value.slice(end);
    requestAnimationFrame(() => {
      element.focus();
      element.setSelectionRange(start + field.length, start + field.length);
    });
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
    <p class="quiet"><a href="/rules">Rules</a></p>
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
        {#if data.state === 'on'}<button class="button" formaction="?/turnOff">Turn off</button>{/if}
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
    {#if refused}<p class="band brick mt-2" role="alert">
        <b>{refused.message}</b><span
          >{refused.faults.length > 0 ? 'What is missing stands at its part.' : ''}</span
        >
      </p>{/if}
    {#each at('name') as fault (fault)}<p class="fault">{fault}</p>{/each}
  </div>

  <div class="columns">
    <div class="parts">
      <Part title="Watch" faults={at('watch')} count="{forecast.watched} tasks are watched now">
        <Line label="tasks in">
          <Choices
            legend="Projects; none chosen means every task"
            options={data.projects.map(({ id, name }) => ({ value: id, label: name }))}
            chosen={input.definition.watch.projects ?? []}
            onchange={(chosen) => (input.definition.watch.projects = chosen.length > 0 ? chosen : null)}
          />
          {#if input.definition.watch.projects === null}<span class="quiet"
              >none chosen: every task, in any project or none</span
            >{/if}
        </Line>
        <Line label="that are">
          <Choices
            legend="Phases"
            options={PHASES.map((phase) => ({ value: phase, label: phase }))}
            chosen={input.definition.watch.phases}
            onchange={(chosen) => (input.definition.watch.phases = chosen)}
          />
        </Line>
        <Line label="of priority">
          <Choices
            legend="Priorities"
            options={PRIORITIES.map((priority) => ({ value: priority, label: priority }))}
            chosen={input.definition.watch.priorities}
            onchange={(chosen) => (input.definition.watch.priorities = chosen)}
          />
        </Line>
      </Part>

      <Part title="Ring" faults={at('ring')} count="{forecast.counts.bells} bells in four weeks">
        {#each input.definition.leads as lead, i (lead.id)}
          <Line label={i === 0 ? 'first' : 'again'}>
            <LeadRow
              {lead}
              label="Ring time {i + 1}"
              noticeTime={data.noticeTime}
              onchange={(changed) =>
                (input.definition.leads = input.definition.leads.map((one) =>
                  one.id === lead.id ? changed : one
                ))}
              onremove={() =>
                (input.definition.leads = input.definition.leads.filter(({ id }) => id !== lead.id))}
            />
          </Line>
        {/each}
        <p>
          <button
            type="button"
            class="button"
            onclick={addLead}
            disabled={input.definition.leads.length >= MOST_LEADS}
          >
            <Plus size={15} strokeWidth={1.75} />{input.definition.leads.length === 0
              ? 'Add a ring time'
              : 'Another ring time'}
          </button>
        </p>
        {#if input.definition.leads.length > 0}
          <Line label="clock">
            <select
              class="value"
              aria-label="On whose clock"
              value={zone.of}
              onchange={(event) => {
                const of = event.currentTarget.value as ZoneChoice['of'];
                setZone(of === 'named' ? { of, zone: 'UTC' } : { of });
              }}
            >
              <option value="recipient">the recipient’s</option>
              <option value="owner">the owner’s</option>
              <option value="project">the project’s</option>
              <option value="workspace">the workspace’s</option>
              <option value="named">a named place’s</option>
            </select>
            {#if zone.of === 'named'}
              <input
                class="value"
                list="zones"
                aria-label="Time zone"
                value={zone.zone}
                onchange={(event) => setZone({ of: 'named', zone: event.currentTarget.value.trim() })}
              />
              <datalist id="zones"
                >{#each data.zones as name (name)}<option value={name}></option>{/each}</datalist
              >
            {/if}
            <span class="quiet">working days by the owner’s calendar</span>
          </Line>
        {/if}
      </Part>

      <Part title="Tell" faults={at('tell')} count="{forecast.counts.people} people would hear">
        <Line label="who">
          <select
            class="value"
            aria-label="Who is told"
            value={input.definition.tell.to ?? ''}
            onchange={(event) =>
              (input.definition.tell.to = (event.currentTarget.value || null) as 'owner' | 'manager' | null)}
          >
            <option value="">nobody yet</option><option value="owner">the owner</option><option
              value="manager">the owner’s manager</option
            >
          </select>
          <span class="quiet">by mail,</span>
          <select class="value" aria-label="When they may be told" bind:value={input.definition.tell.reach}>
            <option value="working hours">held to their working hours</option>
            <option value="outside quiet hours">held until their quiet hours end</option>
            <option value="any time">at any time</option>
          </select>
        </Line>
        <Line label="on leave">
          <select class="value" aria-label="While they are on leave" bind:value={input.definition.tell.away}>
            <option value="stand-in">their stand-in hears, without one their manager</option>
            <option value="pass">their manager hears</option>
            <option value="wait">it waits until they are back</option>
          </select>
        </Line>
        <Line label="subject">
          <input
            id="words-subject"
            class="value wide"
            aria-label="Subject"
            maxlength="500"
            bind:value={input.definition.tell.subject}
            onfocus={() => (lastWords = 'subject')}
          />
        </Line>
        <Line label="words">
          <textarea
            id="words-body"
            class="value wide"
            rows="7"
            aria-label="Words"
            bind:value={input.definition.tell.body}
            onfocus={() => (lastWords = 'body')}></textarea>
        </Line>
        <Line label="fields">
          <select
            class="value"
            aria-label="Insert a merge field"
            value=""
            onchange={(event) => {
              if (event.currentTarget.value) insertField(event.currentTarget.value);
              event.currentTarget.value = '';
            }}
          >
            <option value="">insert a field…</option>
            {#each data.fields as field (field.name)}<option value={field.name}
                >‹{field.name}› {field.label}</option
              >{/each}
          </select>
          <span class="quiet">‹due, else no date yet› says what stands there without one</span>
        </Line>
      </Part>

      <Part title="Stop">
        <p class="quiet">
          It is silent for a task outside these phases, and a date that moves ends the rings of the old date.
          What waited is withdrawn.
        </p>
      </Part>
    </div>

    <RuleForecast {forecast} {pending} on={data.state === 'on'} />
  </div>
</form>

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
  .wide {
    flex: 1;
    width: 100%;
  }
  @media (max-width: 1100px) {
    .columns {
      grid-template-columns: minmax(0, 1fr);
    }
  }
</style>
