<script lang="ts">
  import { invalidate } from '$app/navigation';
  import { getContext } from 'svelte';
  import type { Deed } from '$lib/core/access/deeds.ts';
  import HandRing from '$lib/ui/rule/HandRing.svelte';
  import { ringMany } from '$lib/ui/rule/ring-many.ts';
  import HushPart from '$lib/ui/hush/HushPart.svelte';
  import type { Send } from '$lib/ui/form/send.ts';
  import type { Done } from '$lib/ui/form/submit.ts';
  import type { ProjectFormView } from '$lib/view/projects.ts';
  import Members from './Members.svelte';
  import ProjectForm from './ProjectForm.svelte';
  import ProjectRules from './ProjectRules.svelte';
  import ProjectTasks from './ProjectTasks.svelte';
  import Sections from './Sections.svelte';
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
  const editable = $derived(may('look after projects'));
  const hand = $derived(
    ringMany(
      send,
      () => ({ project: project.row.id }),
      done,
      () => invalidate('early-bell:tasks')
    )
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
  <a href="/tasks?project={project.row.id}&shape=columns">Open as columns</a>
  <a href="/tasks?project={project.row.id}&shape=days">as days</a>
</p>
{#if project.row.state !== 'open'}<p class="band mb-3">
    <b>{project.row.state}</b><span>No rule watches its tasks, and none counts as overdue.</span>
  </p>{/if}

{#if data.hand.length > 0}
  <section class="hand" aria-label="Rules rung by hand">
    <HandRing buttons={data.hand} onpreview={hand.preview} onring={hand.ring} />
  </section>
{/if}
{#if editable}<HushPart hush={data.hush} what="this project" ondone={done} fault={errors.until} />{/if}

<div class="columns">
  <div>
    <ProjectTasks {project} />
  </div>

  <div>
    <ProjectRules rules={project.rules} />

    {#if data.lately.length > 0}
      <section aria-label="Done lately">
        <h2>Done lately</h2>
        <p class="quiet">
          To the project, or to several of its tasks at once. Each can be undone for 30 days.
        </p>
        <ul>
          {#each data.lately as { id, title, by, at, undone } (id)}
            <li class:slate-text={undone}>
              <a href="/changes/{id}">{title}</a>
              <span class="quiet">{by}, {at}{undone ? ', undone' : ''}</span>
            </li>
          {/each}
        </ul>
      </section>
    {/if}

    {#if project.connected.length > 0}
      <section aria-label="Connected tasks">
        <h2>Connected tasks</h2>
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

<div class="columns set-up">
  <div>
    <ProjectForm {data} {failed} {editable} />
  </div>

  <div>
    <Members {project} people={data.people} {editable} fault={errors.personId} />

    <Sections {project} {editable} />
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
  .set-up {
    margin-top: 8px;
  }
  .hand,
  .columns :global(section) {
    border-top: 1px solid var(--line);
    padding: 12px 0 14px;
    margin-top: 12px;
  }
  .columns > :global(div > section:first-child) {
    margin-top: 0;
    border-top: none;
    padding-top: 0;
  }
  .columns :global(section > h2) {
    margin-bottom: 6px;
  }
  .columns :global(section > ul > li) {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 8px;
    padding: 2px 0;
  }
  .columns :global(section > .row) {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
    align-items: center;
    margin-top: 8px;
  }
  @media (max-width: 1000px) {
    .columns {
      grid-template-columns: minmax(0, 1fr);
    }
  }
</style>
