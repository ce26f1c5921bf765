<script lang="ts">
  import { enhance } from '$app/forms';
  import { invalidate } from '$app/navigation';
  import ArrowDown from '@lucide/svelte/icons/arrow-down';
  import ArrowUp from '@lucide/svelte/icons/arrow-up';
  import X from '@lucide/svelte/icons/x';
  import { getContext } from 'svelte';
  import type { Deed } from '$lib/core/access/deeds.ts';
  import Effect from '$lib/ui/effect/Effect.svelte';
  import Looking from '$lib/ui/effect/Looking.svelte';
  import Field from '$lib/ui/form/Field.svelte';
  import type { EffectView } from '$lib/view/effects.ts';
  import { askEffect, type EffectAnswer } from '../../ask-effect.ts';
  import HandRing from '$lib/ui/rule/HandRing.svelte';
  import { ringMany } from '$lib/ui/rule/ring-many.ts';
  import HushPart from '$lib/ui/hush/HushPart.svelte';
  import TextField from '$lib/ui/form/TextField.svelte';
  import ZoneInput from '$lib/ui/form/ZoneInput.svelte';
  import type { Send } from '$lib/ui/form/send.ts';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import type { ProjectFormView } from '$lib/view/projects.ts';
  import type { ActionData, PageData } from './$types';

  let { data, form }: { data: PageData; form: ActionData } = $props();
  const may = getContext<(deed: Deed) => boolean>('may');
  const done = getContext<(done: Done) => void>('done');
  const send = getContext<Send>('send');
  const project = $derived(data.project);
  const failed = $derived(
    form as { values?: Partial<ProjectFormView>; errors?: Record<string, string> } | null
  );
  const errors = $derived(failed?.errors ?? {});
  const text = $derived(JSON.stringify(project.values));
  const values = $derived({
    ...(JSON.parse(text) as ProjectFormView),
    ...(failed?.errors ? failed.values : {})
  });
  const editable = $derived(may('look after projects'));
  const hand = $derived(
    ringMany(
      send,
      () => ({ project: project.row.id }),
      done,
      () => invalidate('early-bell:tasks')
    )
  );
  let moved = $state<EffectView | null>(null);
  /** How far what is asked has come, where that takes long. */
  let part = $state<number | null>(null);
  let stopAsking = () => {};
  /** What has been typed is asked about once it differs from what is saved in anything that rules look at. */
  function ask(sheet: HTMLFormElement) {
    stopAsking();
    const typed = new FormData(sheet);
    const text = (name: string) => String(typed.get(name) ?? '');
    const draft = {
      ...{ name: text('name'), description: text('description'), zone: text('zone'), state: text('state') },
      calendarId: Number(text('calendarId')) || null,
      pinned: typed.get('pinned') === 'on',
      register: typed.get('register') === 'on'
    };
    const { zone, state, calendarId, pinned, register } = project.values;
    const saved = { zone: zone ?? '', state, calendarId, pinned, register };
    moved = part = null;
    if (Object.entries(saved).every(([key, value]) => draft[key as keyof typeof saved] === value)) return;
    const answered = (answer: EffectAnswer) => {
      moved = 'moved' in answer ? answer.moved : null;
      part = null;
    };
    stopAsking = askEffect(`/projects/${project.row.id}/effect`, draft, answered, (come) => (part = come));
  }
  const outsiders = $derived(
    data.people.filter(({ id }) => !project.members.some(({ personId }) => personId === id))
  );
</script>

<svelte:head><title>{project.row.name} · Early Bell</title></svelte:head>

<p class="quiet"><a href="/projects">Projects</a></p>
<h1>{project.row.name}</h1>
<p class="facts">
  <span class:slate-text={project.row.state !== 'open'}>{project.row.state}</span>
  <a href="/tasks?project={project.row.id}&group=section">{project.row.open} open</a>
  {#if project.row.overdue > 0}<a class="brick-text" href="/tasks?project={project.row.id}&show=overdue"
      >{project.row.overdue} overdue</a
    >{/if}
  <a href="/tasks?project={project.row.id}&show=done">{project.row.done} done</a>
  <a href="/tasks?project={project.row.id}&shape=columns">as columns</a>
  <a href="/tasks?project={project.row.id}&shape=days">as days</a>
</p>
{#if project.row.state !== 'open'}<p class="band mb-3">
    <b>{project.row.state}</b><span>No rule sees its tasks, and none of them is overdue.</span>
  </p>{/if}

{#if data.hand.length > 0}
  <section class="hand" aria-label="Rules rung by hand">
    <HandRing buttons={data.hand} onpreview={hand.preview} onring={hand.ring} />
  </section>
{/if}
{#if editable}<HushPart hush={data.hush} what="this project" ondone={done} fault={errors.until} />{/if}

<div class="columns">
  <div>
    <form
      method="POST"
      action="?/save"
      use:enhance={submitDone(done, undefined, () => (moved = null))}
      oninput={({ currentTarget }) => ask(currentTarget)}
    >
      <fieldset disabled={!editable} class="grid gap-3">
        {#if errors['']}<p class="band brick" role="alert"><b>Not saved</b><span>{errors['']}</span></p>{/if}
        <TextField label="Name" name="name" value={values.name} error={errors.name} />
        <Field label="What it is for" error={errors.description}>
          {#snippet control(attributes)}<textarea
              class="value"
              name="description"
              rows="3"
              value={values.description}
              {...attributes}></textarea>{/snippet}
        </Field>
        <div class="pair">
          <Field label="State" error={errors.state} hint="Called off or closed, its rules are silent.">
            {#snippet control(attributes)}<select
                class="value"
                name="state"
                value={values.state}
                {...attributes}
              >
                <option>open</option><option>called off</option><option>closed</option>
              </select>{/snippet}
          </Field>
          <Field
            label="Calendar"
            error={errors.calendarId}
            hint="For tasks that nobody owns, and for pinned dates."
          >
            {#snippet control(attributes)}<select
                class="value"
                name="calendarId"
                value={values.calendarId === null ? '' : String(values.calendarId)}
                {...attributes}
              >
                <option value="">the workspace’s</option>
                {#each data.calendars as { id, name } (id)}<option value={String(id)}>{name}</option>{/each}
              </select>{/snippet}
          </Field>
          <Field label="Place" error={errors.zone}>
            {#snippet control(attributes)}<ZoneInput
                name="zone"
                value={values.zone}
                zones={data.zones}
                {...attributes}
              />{/snippet}
          </Field>
        </div>
        <label class="check"
          ><input type="checkbox" name="pinned" checked={values.pinned} /> Its dates are pinned to that place, and
          do not float with their owner</label
        >
        <label class="check"
          ><input type="checkbox" name="register" checked={values.register} /> A register: things with dates but
          no work, never overdue</label
        >
        {#if part !== null}<Looking {part} />{/if}
        {#if moved}<section aria-label="What saving would do"><Effect effect={moved} /></section>{/if}
        {#if editable}<p><button class="button main">Save</button></p>{/if}
      </fieldset>
    </form>

    <section aria-label="Sections">
      <h2>Sections</h2>
      {#if project.sections.length === 0}<p class="quiet">none</p>{/if}
      <ul>
        {#each project.sections as section, i (section.id)}
          <li>
            <a href="/tasks?project={project.row.id}&section={section.id}">{section.name}</a>
            <span class="quiet">{section.tasks} {section.tasks === 1 ? 'task' : 'tasks'}</span>
            {#if editable}
              <form method="POST" action="?/moveSection" use:enhance={submitDone(done)}>
                <input type="hidden" name="section" value={section.id} />
                <button
                  class="button plain"
                  name="by"
                  value="up"
                  disabled={i === 0}
                  aria-label="Move {section.name} up"><ArrowUp size={13} /></button
                >
                <button
                  class="button plain"
                  name="by"
                  value="down"
                  disabled={i === project.sections.length - 1}
                  aria-label="Move {section.name} down"><ArrowDown size={13} /></button
                >
                <button
                  class="button plain"
                  formaction="?/dropSection"
                  aria-label="Take the section {section.name} out"><X size={13} /></button
                >
              </form>
            {/if}
          </li>
        {/each}
      </ul>
      {#if editable}
        <form class="row" method="POST" action="?/section" use:enhance={submitDone(done)}>
          <input class="value" name="name" aria-label="Name of a new section" placeholder="a new section" />
          <button class="button">Add it</button>
        </form>
      {/if}
    </section>
  </div>

  <div>
    <section aria-label="Members">
      <h2>Members</h2>
      <p class="quiet">Members see every task of the project that is not private.</p>
      <ul>
        {#each project.members as member (member.id)}
          <li>
            <a href="/people/{member.personId}">{member.name}</a>
            <span class="quiet">{member.place}{member.role ? ` · ${member.role}` : ''}</span>
            {#if editable}<form method="POST" action="?/dropMember" use:enhance={submitDone(done)}>
                <input type="hidden" name="member" value={member.id} />
                <button class="button plain" aria-label="Take {member.name} out"><X size={13} /></button>
              </form>{/if}
          </li>
        {/each}
      </ul>
      {#if editable}
        <form class="row" method="POST" action="?/member" use:enhance={submitDone(done)}>
          <select class="value" name="personId" aria-label="A new member">
            <option value="">somebody</option>
            {#each outsiders as { id, name } (id)}<option value={id}>{name}</option>{/each}
          </select>
          <input class="value" name="role" aria-label="What they do there" placeholder="what they do there" />
          <button class="button">Add them</button>
          {#if errors.personId}<span class="fault" role="alert">{errors.personId}</span>{/if}
        </form>
      {/if}
      {#if project.contacts.length > 0}<p class="quiet">Outside: {project.contacts.join(', ')}</p>{/if}
    </section>

    <section aria-label="Rules over it">
      <h2>Rules over it</h2>
      <dl>
        {#each [...project.rules].sort((a, b) => Number(b.applies) - Number(a.applies)) as rule (rule.id)}
          <dt class:slate-text={!rule.applies}>
            {#if may('make rules')}<a href="/rules/{rule.id}">{rule.name}</a>{:else}{rule.name}{/if}
            <span class="quiet">{rule.applies ? 'covers it' : 'does not'}</span>
          </dt>
          {#each rule.reasons as reason (reason)}<dd>{reason}</dd>{/each}
        {:else}
          <dd>No rule is on.</dd>
        {/each}
      </dl>
    </section>

    {#if data.lately.length > 0}
      <section aria-label="Done lately">
        <h2>Done lately</h2>
        <p class="quiet">
          To the project, or to several of its tasks at once. Each can be taken back for 30 days.
        </p>
        <ul>
          {#each data.lately as { id, title, by, at, undone } (id)}
            <li class:slate-text={undone}>
              <a href="/changes/{id}">{title}</a>
              <span class="quiet">{by}, {at}{undone ? ', taken back' : ''}</span>
            </li>
          {/each}
        </ul>
      </section>
    {/if}

    {#if project.connected.length > 0}
      <section aria-label="Connected tasks">
        <h2>Connected from elsewhere</h2>
        <ul>
          {#each project.connected as row (row.id)}
            <li>
              <a href="/tasks/{row.id}">{row.name}</a>
              <span class="quiet"
                >{row.project ?? 'no project'} · {row.due ?? 'no date'}{row.left ? `, ${row.left}` : ''} · {row.status}</span
              >
            </li>
          {/each}
        </ul>
      </section>
    {/if}
  </div>
</div>

<style>
  .hand {
    margin: 10px 0 14px;
  }
  .facts {
    display: flex;
    flex-wrap: wrap;
    gap: 4px 14px;
    margin: 4px 0 14px;
  }
  .columns {
    display: grid;
    grid-template-columns: minmax(0, 1.1fr) minmax(0, 1fr);
    gap: 30px;
  }
  .pair {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(180px, 1fr));
    gap: 12px 16px;
  }
  .check {
    display: flex;
    gap: 8px;
    font-size: 13px;
  }
  section {
    border-top: 1px solid var(--line);
    padding: 12px 0 14px;
    margin-top: 12px;
  }
  .columns > div:last-child > section:first-child {
    margin-top: 0;
    border-top: none;
    padding-top: 0;
  }
  h2 {
    margin-bottom: 6px;
  }
  li {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 8px;
    padding: 2px 0;
  }
  .row {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
    align-items: center;
    margin-top: 8px;
  }
  dt {
    font-weight: 550;
    margin-top: 8px;
  }
  dd {
    padding-left: 14px;
    color: var(--ink-2);
    font-size: 13px;
  }
  @media (max-width: 1000px) {
    .columns {
      grid-template-columns: minmax(0, 1fr);
    }
  }
</style>
