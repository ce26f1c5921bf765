<script lang="ts">
  import { askJson } from '$lib/ui/form/send.ts';
  import { CHANNEL, LEAVING } from '$lib/core/channel/channels.ts';
  import { enhance } from '$app/forms';
  import { getContext } from 'svelte';
  import Effect from '$lib/ui/effect/Effect.svelte';
  import Field from '$lib/ui/form/Field.svelte';
  import TextField from '$lib/ui/form/TextField.svelte';
  import TimeField from '$lib/ui/form/date/TimeField.svelte';
  import ZoneInput from '$lib/ui/form/ZoneInput.svelte';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import FieldRows from '$lib/ui/settings/FieldRows.svelte';
  import StatusRows from '$lib/ui/settings/StatusRows.svelte';
  import type { EffectView } from '$lib/view/effects.ts';
  import { askEffect } from '../ask-effect.ts';
  import type { ActionData, PageData } from './$types';

  let { data, form }: { data: PageData; form: ActionData } = $props();
  const done = getContext<(done: Done) => void>('done');
  const faultOf = (name: string) => (form && 'form' in form && form.form === name ? form : null);
  const fault = $derived(faultOf('settings'));

  // The page’s data come anew with the clock: the same ones must not take away what somebody is writing.
  const savedText = $derived(JSON.stringify(data.settings));
  let draft = $derived(JSON.parse(savedText) as typeof data.settings);
  const set = (patch: Partial<typeof draft>) => (draft = { ...draft, ...patch });
  let moved = $state<EffectView | null>(null);
  let movedError = $state('');
  const dirty = $derived(JSON.stringify(draft) !== JSON.stringify(data.settings));

  async function askPhase(statusId: number, phase: string): Promise<EffectView | null> {
    const url = `/settings/effect?status=${statusId}&phase=${encodeURIComponent(phase)}`;
    const said = await askJson<EffectView>(url, {});
    return said?.ok ? said.answer : null;
  }

  $effect(() => {
    moved = null;
    movedError = '';
    if (!dirty) return;
    return askEffect('/settings/effect', draft, (answer) => {
      if ('moved' in answer) moved = answer.moved;
      else movedError = answer.error;
    });
  });
</script>

<svelte:head><title>Settings · Early Bell</title></svelte:head>

<h1>Settings</h1>

<div class="columns mt-3">
  <section>
    <h2>The workspace</h2>
    <form method="POST" action="?/save" use:enhance={submitDone(done)} class="grid gap-3">
      <TextField
        label="Name"
        name="name"
        value={draft.name}
        oninput={(event) => set({ name: event.currentTarget.value })}
        error={fault?.errors.name}
      />
      <div class="pair">
        <Field label="Notice time" error={fault?.errors.noticeTime} hint="The ring time if a rule sets none.">
          {#snippet control(attributes)}<TimeField
              class="value"
              name="noticeTime"
              value={draft.noticeTime}
              onchange={(time) => set({ noticeTime: time ?? '' })}
              {...attributes}
            />{/snippet}
        </Field>
        <Field
          label="Overdue from"
          error={fault?.errors.endOfDay}
          hint="Close of business: the end of that day’s working hours, in the date’s zone."
        >
          {#snippet control(attributes)}
            <select
              class="value"
              name="endOfDay"
              value={draft.endOfDay}
              onchange={(event) => set({ endOfDay: event.currentTarget.value as 'midnight' | 'close' })}
              {...attributes}
            >
              <option value="midnight">at midnight</option>
              <option value="close">at close of business</option>
            </select>
          {/snippet}
        </Field>
        <Field
          label="Time zone"
          error={fault?.errors.zone}
          hint="For tasks without an owner or a project place."
        >
          {#snippet control(attributes)}<ZoneInput
              name="zone"
              value={draft.zone}
              zones={data.zones}
              onchange={(zone) => set({ zone })}
              {...attributes}
            />{/snippet}
        </Field>
        <Field label="Calendar" error={fault?.errors.calendarId} hint="For the same tasks.">
          {#snippet control(attributes)}
            <select
              class="value"
              name="calendarId"
              value={draft.calendarId}
              onchange={(event) => set({ calendarId: Number(event.currentTarget.value) })}
              {...attributes}
            >
              {#each data.calendars as { id, name } (id)}<option value={id}>{name}</option>{/each}
            </select>
          {/snippet}
        </Field>
        <TextField
          label="Sender name"
          name="mailFromName"
          value={draft.mailFromName}
          oninput={(event) => set({ mailFromName: event.currentTarget.value })}
          error={fault?.errors.mailFromName}
        />
        <TextField
          label="Sender address"
          name="mailFromAddress"
          value={draft.mailFromAddress}
          oninput={(event) => set({ mailFromAddress: event.currentTarget.value })}
          error={fault?.errors.mailFromAddress}
        />
      </div>
      {#if dirty}
        <div class="sheet effect" aria-live="polite">
          <p class="label">Effect of saving</p>
          {#if movedError}<p class="fault" role="alert">{movedError}</p>
          {:else if moved}<Effect effect={moved} />
          {:else}<p class="quiet">Computing…</p>{/if}
        </div>
      {/if}
      <p class="flex gap-2">
        <button class="button main" disabled={!dirty}>Save the settings</button>
        {#if dirty}<button type="button" class="button" onclick={() => (draft = { ...data.settings })}
            >Discard changes</button
          >{/if}
      </p>
    </form>
    <h2 class="mt-5">Channels</h2>
    <p class="quiet">
      {#each LEAVING as channel (channel)}
        {@const to = data.channels[channel]}
        <span class="block"
          >By {CHANNEL[channel].words}: {to.length > 0 ? `to ${to.join(', then ')}` : 'not set up'}.</span
        >
      {/each}
    </p>
    <p class="mt-2"><a class="button" href="/settings/channels">Channels</a></p>
    {#if data.begin.away}
      <form method="POST" action="/?/begin" use:enhance={submitDone(done)} class="mt-2">
        <input type="hidden" name="away" value="no" />
        <button class="button">Show Begin on the Bell tower</button>
      </form>
    {/if}
  </section>

  <section>
    <StatusRows statuses={data.statuses} phases={data.phases} fault={faultOf('status')} ask={askPhase} />
    <FieldRows fields={data.fields} statuses={data.statuses} fault={faultOf('field')} />
    {#if data.demo}
      <h2 class="mt-6">Sample data</h2>
      <p class="quiet">
        Removes all sample data. You, your calendar, settings and statuses stay. It cannot be undone.
      </p>
      <form
        method="POST"
        action="?/clearSample"
        use:enhance={submitDone(done)}
        class="mt-2 flex flex-wrap items-center gap-3"
      >
        <label class="flex items-baseline gap-2 text-[13px]"
          ><input type="checkbox" required /> Remove all samples</label
        >
        <button class="button">Remove the sample data</button>
      </form>
    {/if}
  </section>
</div>

<style>
  .columns {
    display: grid;
    grid-template-columns: minmax(0, 1.3fr) minmax(0, 1fr);
    gap: 32px;
  }
  .pair {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(220px, 1fr));
    gap: 12px 16px;
  }
  h2 {
    margin-bottom: 8px;
  }
  .effect {
    padding: 10px 14px;
    font-size: 13px;
    border-color: var(--brass);
  }
  .label {
    color: var(--ink-3);
    font-size: 12px;
    font-weight: 550;
  }
  @media (max-width: 1100px) {
    .columns {
      grid-template-columns: minmax(0, 1fr);
    }
  }
</style>
