<script lang="ts">
  import { enhance } from '$app/forms';
  import X from '@lucide/svelte/icons/x';
  import { getContext } from 'svelte';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import type { PageData } from './$types';

  /** Who is in a project, and what they do there. */
  interface Props extends Pick<PageData, 'project' | 'people'> {
    editable: boolean;
    fault: string | undefined;
  }

  let { project, people, editable, fault }: Props = $props();
  const done = getContext<(done: Done) => void>('done');
  const outsiders = $derived(
    people.filter(({ id }) => !project.members.some(({ personId }) => personId === id))
  );
</script>

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
            <button class="button plain" aria-label="Remove {member.name}"><X size={13} /></button>
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
      <input class="value" name="role" aria-label="Role in the project" placeholder="role in the project" />
      <button class="button">Add member</button>
      {#if fault}<span class="fault" role="alert">{fault}</span>{/if}
    </form>
  {/if}
  {#if project.contacts.length > 0}<p class="quiet">Outside: {project.contacts.join(', ')}</p>{/if}
</section>
