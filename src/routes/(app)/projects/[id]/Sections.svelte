<script lang="ts">
  import { many } from '$lib/core/many.ts';
  import { enhance } from '$app/forms';
  import ArrowDown from '@lucide/svelte/icons/arrow-down';
  import ArrowUp from '@lucide/svelte/icons/arrow-up';
  import X from '@lucide/svelte/icons/x';
  import { getContext } from 'svelte';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import type { PageData } from './$types';

  /** The sections of a project in their order. */
  let { project, editable }: Pick<PageData, 'project'> & { editable: boolean } = $props();
  const done = getContext<(done: Done) => void>('done');
</script>

<section aria-label="Sections">
  <h2>Sections</h2>
  {#if project.sections.length === 0}<p class="quiet">none</p>{/if}
  <ul>
    {#each project.sections as section, i (section.id)}
      <li>
        <a href="/tasks?project={project.row.id}&section={section.id}">{section.name}</a>
        <span class="quiet">{many(section.tasks, 'task')}</span>
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
              aria-label="Remove the section {section.name}"><X size={13} /></button
            >
          </form>
        {/if}
      </li>
    {/each}
  </ul>
  {#if editable}
    <form class="row" method="POST" action="?/section" use:enhance={submitDone(done)}>
      <input class="value" name="name" aria-label="Name of a new section" placeholder="a new section" />
      <button class="button">Add section</button>
    </form>
  {/if}
</section>
