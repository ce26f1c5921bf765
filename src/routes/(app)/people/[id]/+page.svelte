<script lang="ts">
  import { capital } from '$lib/core/capital.ts';
  import { enhance } from '$app/forms';
  import { getContext } from 'svelte';
  import type { Deed } from '$lib/core/access/deeds.ts';
  import BellTable from '$lib/ui/bell/BellTable.svelte';
  import Field from '$lib/ui/form/Field.svelte';
  import TextField from '$lib/ui/form/TextField.svelte';
  import ZoneInput from '$lib/ui/form/ZoneInput.svelte';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import AccessPart from '$lib/ui/person/AccessPart.svelte';
  import ChannelsPart from '$lib/ui/person/ChannelsPart.svelte';
  import LeavePart from '$lib/ui/person/LeavePart.svelte';
  import { Later } from '$lib/ui/later/later.svelte.ts';
  import LaterFault from '$lib/ui/later/LaterFault.svelte';
  import HushPart from '$lib/ui/hush/HushPart.svelte';
  import PersonForm from '$lib/ui/person/PersonForm.svelte';
  import QuietPart from '$lib/ui/person/QuietPart.svelte';
  import type { ActionData, PageData } from './$types';
  import DateField from '$lib/ui/form/date/DateField.svelte';

  let { data, form }: { data: PageData; form: ActionData } = $props();
  const done = getContext<(done: Done) => void>('done');
  const may = getContext<(deed: Deed) => boolean>('may');
  /** What went wrong with one of the forms of the page, with what was typed in it. */
  const faultOf = (name: string) => (form && 'form' in form && form.form === name ? form : null);
  const basics = $derived(faultOf('basics'));
  const move = $derived(faultOf('move'));
  const quiet = $derived(faultOf('quiet'));
  const bells = new Later(
    () => data.bells,
    () => data.person.id
  );
  const whose = $derived(data.isSelf ? 'you' : data.person.name);
</script>

<svelte:head><title>{data.person.name} · Early Bell</title></svelte:head>

<p class="quiet"><a href="/people">People</a></p>
<h1>{data.person.name}</h1>
<p class="mb-3">
  Local time: {data.there}. {capital(whose)}
  {data.isSelf ? 'are' : 'is'}
  {data.presence.word === 'closed' ? 'off work' : data.presence.word}{data.presence.until
    ? ` until ${data.presence.until}`
    : ''}.
  {#if !data.person.active}<b class="brick-text">Deactivated.</b>{/if}
  {#if data.isSelf}<a href="/told">What I am told</a>{/if}
  {#if data.mayReadDesk && data.person.active}<a href="/people/{data.person.id}/desk">Read their Desk</a>
    <span class="quiet">(they see that you did)</span>{/if}
</p>
{#if data.unreachable}<p class="band brick mb-3">
    <b>Cannot be reached</b><span>{data.unreachable}</span>
  </p>{/if}

{#if may('look after people')}<HushPart hush={data.hush} what={data.person.name} ondone={done} />{/if}

<div class="columns">
  <section>
    <h2>Bells, next two weeks</h2>
    {#if bells.failed}<LaterFault what="Notices for {whose}" />
    {:else if !bells.value}<p class="quiet waits" aria-live="polite">
        Computing the notices for {whose}…
      </p>
    {:else if bells.value.count > 0}<BellTable
        bells={bells.value.bells}
        caption="Bells for {data.person.name}"
      />
      {#if bells.value.count > bells.value.first}{@const isAll =
          bells.value.bells.length === bells.value.count}
        <p class="mt-2">
          <a
            class="button"
            href={isAll ? `/people/${data.person.id}` : '?bells=all'}
            data-sveltekit-noscroll
            data-sveltekit-keepfocus
            >{isAll ? `Only the next ${bells.value.first}` : `Show all ${bells.value.count}`}</a
          >
        </p>{/if}
    {:else}<p class="quiet">No notices in the next two weeks.</p>{/if}

    {#if data.mayKeep}
      <LeavePart
        personId={data.person.id}
        leave={data.leave}
        standsInFor={data.standsInFor}
        people={data.choices.managers}
        fault={faultOf('leave')}
      />

      <h2 class="mt-5">Changes of place</h2>
      <p class="quiet">From this date, times are in that zone.</p>
      {#if data.moves.length > 0}
        <table class="hours">
          <tbody>
            {#each data.moves as { from, text, place, zone } (from)}
              <tr
                ><th scope="row">{text}</th><td>{place} <span class="quiet">{zone}</span></td><td class="act">
                  <form method="POST" action="?/dropMove" use:enhance={submitDone(done)}>
                    <input type="hidden" name="from" value={from} />
                    <button class="button plain" aria-label="Remove the change of {text}">Remove</button>
                  </form>
                </td></tr
              >
            {/each}
          </tbody>
        </table>
      {/if}
      <form method="POST" action="?/move" use:enhance={submitDone(done)} class="row">
        <Field label="From" error={move?.errors.from ?? move?.errors['']}>
          {#snippet control(attributes)}<DateField
              name="from"
              value={String(move?.given.from ?? '')}
              of={{ person: data.person.id }}
              {...attributes}
            />{/snippet}
        </Field>
        <Field label="Place" error={move?.errors.zone}>
          {#snippet control(attributes)}<ZoneInput
              name="zone"
              value={String(move?.given.zone ?? '')}
              zones={data.choices.zones}
              {...attributes}
            />{/snippet}
        </Field>
        <button class="button">Add change</button>
      </form>

      {#if data.channels}<ChannelsPart channels={data.channels} fault={faultOf('channels')} />{/if}
      <QuietPart set={data.preferences} fault={quiet} />
    {/if}

    <h2 class="mt-5">When {whose} {data.isSelf ? 'work' : 'works'}</h2>
    <p class="quiet"><a href="/calendars/{data.calendarId}">{data.calendar}</a></p>
    <table class="hours">
      <tbody>
        {#each data.week as { weekday, open } (weekday)}<tr
            ><th scope="row">{weekday}</th><td>{open || 'closed'}</td></tr
          >{/each}
      </tbody>
    </table>
    {#if data.holidays.length > 0}
      <h2 class="mt-5">Next holidays</h2>
      <table class="hours">
        <tbody
          >{#each data.holidays as day (day.date)}<tr
              ><th scope="row">{day.date}</th><td
                >{day.name}{day.hours === 'closed' ? '' : `, ${day.hours}`}</td
              ></tr
            >{/each}</tbody
        >
      </table>
    {/if}
  </section>

  <section>
    {#if data.mayEdit}
      <h2>The person</h2>
      <form method="POST" action="?/basics" use:enhance={submitDone(done)} class="grid gap-4">
        <PersonForm
          values={(basics?.given as unknown as typeof data.values) ?? data.values}
          choices={data.choices}
          errors={basics?.errors ?? {}}
          mayGiveAccess={data.mayGiveAccess}
          mayChangeAddress={data.mayChangeAddress}
        />
        <p><button class="button main">Save</button></p>
      </form>
    {:else if data.mayKeep}
      <h2>Your details</h2>
      <form method="POST" action="?/basics" use:enhance={submitDone(done)} class="grid gap-4">
        <TextField
          label="Telephone"
          name="phone"
          value={String(basics?.given.phone ?? data.values.phone)}
          error={basics?.errors.phone}
        />
        <Field label="Time zone" error={basics?.errors.zone}>
          {#snippet control(attributes)}<ZoneInput
              name="zone"
              value={String(basics?.given.zone ?? data.values.zone)}
              zones={data.choices.zones}
              {...attributes}
            />{/snippet}
        </Field>
        <p><button class="button main">Save</button></p>
      </form>
    {/if}
    {#if data.mayKeep}
      <AccessPart
        person={data.person}
        isSelf={data.isSelf}
        mayGiveAccess={data.mayGiveAccess}
        maySignOut={data.mayTouchAccount}
        error={faultOf('access')?.errors['']}
      />
    {/if}
  </section>
</div>

<style>
  .waits {
    min-height: 260px;
  }
  .columns {
    display: grid;
    grid-template-columns: minmax(0, 1.5fr) minmax(0, 1fr);
    gap: 28px;
  }
  h2 {
    margin-bottom: 8px;
  }
  .hours {
    max-width: 460px;
  }
  .hours th {
    width: 130px;
    padding-top: 6px;
    border-color: var(--line-soft);
  }
  .row {
    display: flex;
    flex-wrap: wrap;
    gap: 10px 14px;
    align-items: end;
    margin-top: 8px;
    max-width: 560px;
  }
  .act {
    text-align: right;
  }
  @media (max-width: 1100px) {
    .columns {
      grid-template-columns: minmax(0, 1fr);
    }
  }
</style>
