<script lang="ts">
  import { many } from '$lib/core/many.ts';
  import { enhance } from '$app/forms';
  import { getContext, untrack } from 'svelte';
  import { UNITS, type Unit } from '$lib/core/ring/lead.ts';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import type { ActionData, PageData } from './$types';

  let { data, form }: { data: PageData; form: ActionData } = $props();
  const done = getContext<(done: Done) => void>('done');
  const errors = $derived(form && 'errors' in form ? (form.errors as Record<string, string>) : {});
  const UNIT_WORDS: Record<Unit, string> = {
    minute: 'minutes',
    hour: 'hours',
    day: 'days',
    week: 'weeks',
    month: 'months',
    workday: 'working days',
    workminute: 'working minutes',
    workhour: 'working hours'
  };
  let side = $state(
    untrack(() => (data.lead && data.lead.n > 0 ? 'after' : data.lead?.n === 0 ? 'on' : 'before'))
  );
</script>

<svelte:head><title>Duplicate {data.name} · Early Bell</title></svelte:head>

<p class="quiet">
  <a href="/rules">Rules</a> · <a href="/rules/{data.id}">{data.name || 'a rule without a name'}</a>
</p>
<h1>Duplicate</h1>
<p class="note">
  {#if data.told.sent > 0}
    “{data.name}” has told {many(data.told.people, 'person', 'people')} of {many(data.told.tasks, 'task')} already,
    in {many(data.told.sent, 'notice')}. The copy ignores what the original has sent. Only the same notice
    within one hour is not sent again.
  {:else}“{data.name}” has told nobody yet.{/if}
  Its text still fits: days left are computed on sending.
</p>

<form method="POST" use:enhance={submitDone(done)}>
  <label class="row"
    ><span>Name</span>
    <input
      class="value"
      name="name"
      maxlength="200"
      value="{data.name} (copy)"
      aria-invalid={'name' in errors}
    /></label
  >
  {#if data.lead}
    <div class="row">
      <span>Ring time</span>
      <span class="lead">
        {#if side !== 'on'}<input
            class="value"
            type="number"
            name="n"
            min="1"
            max="10000"
            value={Math.abs(data.lead.n) || 1}
            aria-label="How many"
          />{:else}<input type="hidden" name="n" value="0" />{/if}
        <select class="value" name="unit" aria-label="Unit" value={data.lead.unit}>
          {#each UNITS as unit (unit)}<option value={unit}>{UNIT_WORDS[unit]}</option>{/each}
        </select>
        <select class="value" name="side" aria-label="Before or after" bind:value={side}>
          <option value="before">before its date</option><option value="on">on its date</option><option
            value="after">after its date</option
          >
        </select>
      </span>
    </div>
  {/if}
  {#if data.tells}
    <label class="row"
      ><span>Tells</span>
      <select class="value" name="who">
        <option value="same">as the original: {data.words}</option>
        <option value="owner">the owner</option>
        <option value="manager 1">the owner’s manager</option>
        <option value="manager 2">the manager’s manager</option>
        <option value="creator">its creator</option>
        <option value="coordinator">the coordinators</option>
        <option value="keeper">the rule’s keeper</option>
        {#each data.people as { id, name } (id)}<option value="person {id}">{name}</option>{/each}
      </select></label
    >
  {/if}
  {#each Object.values(errors) as message (message)}<p class="fault" role="alert">{message}</p>{/each}
  <p class="mt-3"><button class="button main">Add the copy</button></p>
</form>

<style>
  .note {
    max-width: 78ch;
    margin: 4px 0 14px;
    color: var(--ink-2);
  }
  .row {
    display: grid;
    grid-template-columns: 66px minmax(0, 420px);
    align-items: center;
    gap: 8px;
    margin-bottom: 8px;
  }
  .row > span:first-child {
    color: var(--ink-3);
    font-size: 12.5px;
  }
  .lead {
    display: flex;
    gap: 6px;
  }
  .lead input {
    width: 70px;
  }
</style>
