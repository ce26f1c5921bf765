<script lang="ts">
  import { many } from '$lib/core/many.ts';
  import { enhance } from '$app/forms';
  import { getContext } from 'svelte';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';

  /** How a person comes in, and what ends it. */
  interface Props {
    person: { id: number; name: string; active: boolean; canSignIn: boolean; openTasks: number };
    isSelf: boolean;
    mayGiveAccess: boolean;
    /** Whether they may end every session of theirs. */
    maySignOut: boolean;
    error: string | undefined;
  }

  let { person, isSelf, mayGiveAccess, maySignOut, error }: Props = $props();
  const done = getContext<(done: Done) => void>('done');
</script>

<h2>Access</h2>
{#if error}<p class="band brick" role="alert"><b>Not saved</b><span>{error}</span></p>{/if}
<p class="quiet">
  {#if !person.active}Deactivated: {person.name} cannot sign in and gets no messages.
  {:else if person.canSignIn}{isSelf ? 'You sign' : `${person.name} signs`} in with a password.
  {:else}{isSelf ? 'You have' : `${person.name} has`} no password yet{mayGiveAccess
      ? '; an invitation lets them choose one.'
      : '.'}{/if}
</p>
<div class="acts">
  {#if mayGiveAccess && person.active}
    <form method="POST" action="?/invite" use:enhance={submitDone(done)}>
      <button class="button">{person.canSignIn ? 'Send a password link' : 'Send an invitation'}</button>
    </form>
  {/if}
  {#if person.canSignIn && person.active && maySignOut}
    <form method="POST" action="?/signOutEverywhere" use:enhance={submitDone(done)}>
      <button class="button">Sign out everywhere</button>
    </form>
  {/if}
</div>
{#if mayGiveAccess && !isSelf}
  <details class="mt-3">
    <summary>{person.active ? 'Deactivate' : 'Activate or erase'}</summary>
    {#if person.active}
      <p>
        <a href="/people/{person.id}/hand-over">Hand over the work of {person.name}</a>, and then deactivate.
      </p>
      <p class="quiet">
        {person.openTasks === 0
          ? 'They own no open task.'
          : `They own ${many(person.openTasks, 'open task')}. Change the owner, or nobody is told.`}
        It can be undone.
      </p>
      <form method="POST" action="?/deactivate" use:enhance={submitDone(done)}>
        <button class="button">Deactivate {person.name}</button>
      </form>
    {:else}
      <form method="POST" action="?/activate" use:enhance={submitDone(done)}>
        <button class="button">Make {person.name} active again</button>
      </form>
      <p class="quiet mt-3">
        Erasing removes their name, addresses and leave everywhere. It cannot be undone.
      </p>
      <form method="POST" action="?/erase" use:enhance={submitDone(done)} class="acts">
        <label class="flex items-baseline gap-2"
          ><input type="checkbox" required /> Erase {person.name} permanently</label
        >
        <button class="button">Erase</button>
      </form>
    {/if}
  </details>
{/if}

<style>
  h2 {
    margin: 22px 0 6px;
  }
  .acts {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
    align-items: center;
    margin-top: 8px;
  }
  summary {
    cursor: pointer;
    width: fit-content;
  }
</style>
