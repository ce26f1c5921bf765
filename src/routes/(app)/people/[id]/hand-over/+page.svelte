<script lang="ts">
  import { many, agree } from '$lib/core/many.ts';
  import { enhance } from '$app/forms';
  import { getContext, onMount } from 'svelte';
  import Effect from '$lib/ui/effect/Effect.svelte';
  import Looking from '$lib/ui/effect/Looking.svelte';
  import Field from '$lib/ui/form/Field.svelte';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import type { EffectView } from '$lib/view/effects.ts';
  import { askEffect, type EffectAnswer } from '../../../ask-effect.ts';

  let { data, form: answer } = $props();
  const done = getContext<(done: Done) => void>('done');
  const { held, person } = $derived(data);
  const errors = $derived((answer as { errors?: Record<string, string> } | null)?.errors ?? {});

  let sheet: HTMLFormElement;
  let looked = $state<EffectView | null>(null);
  let fault = $state<string | null>(null);
  let part = $state<number | null>(null);
  let looking = $state(false);
  let stop = () => {};

  /** What is chosen is looked at as soon as it is chosen. */
  function look() {
    stop();
    looked = fault = part = null;
    const typed = new FormData(sheet);
    const id = (name: string) => Number(typed.get(name)) || null;
    const chosen = { work: id('work'), keeping: id('keeping'), people: id('people') };
    looking = Object.values(chosen).some((one) => one !== null);
    if (!looking) return;
    const draft = { ...chosen, deactivate: typed.get('deactivate') === 'on' };
    const answered = (said: EffectAnswer) => {
      looking = false;
      if ('moved' in said) looked = said.moved;
      else fault = said.error;
    };
    stop = askEffect(`/people/${person.id}/hand-over/effect`, draft, answered, (come) => (part = come));
  }
  onMount(() => {
    look();
    return () => stop();
  });

  const listed = (names: readonly string[]) => names.join(', ');
  const PARTS = $derived([
    {
      name: 'work',
      label: 'New owner',
      holds: [
        held.tasks > 0 ? many(held.tasks, 'open task', 'open tasks') : '',
        held.besides > 0 ? `one of several owners of ${many(held.besides, 'task', 'tasks')}` : '',
        held.projects > 0 ? `member of ${many(held.projects, 'project', 'projects')}` : '',
        held.questions > 0 ? many(held.questions, 'open question') : ''
      ]
    },
    {
      name: 'keeping',
      label: 'New keeper of rules, digests and sweeps',
      holds: [
        held.rules.length > 0 ? `rules: ${listed(held.rules)}` : '',
        held.digests.length > 0 ? `digests: ${listed(held.digests)}` : '',
        held.sweeps.length > 0 ? `sweeps: ${listed(held.sweeps)}` : '',
        held.readerLists.length > 0 ? `reader lists: ${listed(held.readerLists)}` : '',
        held.groups.length > 0 ? `groups: ${listed(held.groups)}` : ''
      ]
    },
    {
      name: 'people',
      label: 'New manager of their people',
      holds: [
        held.reports.length > 0 ? `people: ${listed(held.reports)}` : '',
        held.standsInFor.length > 0 ? `stand-in for ${listed(held.standsInFor)}` : ''
      ]
    }
  ]);
</script>

<svelte:head><title>Hand over the work of {person.name} · Early Bell</title></svelte:head>

<p class="quiet"><a href="/people">People</a> · <a href="/people/{person.id}">{person.name}</a></p>
<h1>Hand over the work of {person.name}</h1>
<p class="quiet">One act, which can be undone for thirty days. Its effect is shown as you choose.</p>
{#if errors['']}<p class="band brick" role="alert"><b>Not saved</b><span>{errors['']}</span></p>{/if}

<div class="columns">
  <form bind:this={sheet} method="POST" class="grid gap-4" use:enhance={submitDone(done)} onchange={look}>
    {#each PARTS as { name, label, holds } (name)}
      {@const lines = holds.filter(Boolean)}
      <Field {label} error={errors[name]} hint={lines.length > 0 ? lines.join('; ') : 'nothing'}>
        {#snippet control(attributes)}
          <select class="value" {name} {...attributes} disabled={lines.length === 0}>
            <option value="">no change</option>
            {#each data.heirs as heir (heir.id)}
              <option value={heir.id} selected={lines.length > 0 && heir.id === person.managerId}
                >{heir.name}</option
              >
            {/each}
          </select>
        {/snippet}
      </Field>
    {/each}
    {#if held.privateTasks > 0}<p class="quiet">
        {many(held.privateTasks, 'private task stays', 'private tasks stay')}
        {person.name}’s: nobody else reads
        {agree(held.privateTasks, 'it', 'them')}.
      </p>{/if}
    {#if person.active}<label class="check"
        ><input type="checkbox" name="deactivate" /> Deactivate {person.name} too: no messages, no sign-in</label
      >{/if}
    {#if looked?.stamp}<input type="hidden" name="stamp" value={looked.stamp} />{/if}
    <p><button class="button main">Hand over</button></p>
  </form>
  <section aria-label="Preview" aria-live="polite">
    {#if looking}<Looking {part} />
    {:else if fault}<p class="band brick"><b>Not possible</b><span>{fault}</span></p>
    {:else if looked}<Effect effect={looked} />
    {:else}<p class="quiet">Choose who takes over what.</p>{/if}
  </section>
</div>

<style>
  .columns {
    display: grid;
    grid-template-columns: minmax(0, 26rem) minmax(0, 1fr);
    align-items: start;
    gap: 28px;
    margin-top: 16px;
  }
  @media (max-width: 800px) {
    .columns {
      grid-template-columns: minmax(0, 1fr);
    }
  }
  select {
    width: 100%;
  }
</style>
