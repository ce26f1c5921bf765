<script lang="ts">
  import { invalidateAll } from '$app/navigation';
  import { page } from '$app/state';
  import { getContext } from 'svelte';
  import { formatDay, parseDay } from '$lib/core/time/day.ts';
  import { shortDay } from '$lib/core/time/format.ts';
  import type { Done } from '$lib/ui/form/submit.ts';
  import type { Send } from '$lib/ui/form/send.ts';
  import type { FrameView } from '$lib/view/frame.ts';
  import type { SilentTasks } from '$lib/view/models.ts';

  /** Tasks that no bell reaches, each reason with what mends it: by one press where that can be, which can be undone. */
  interface Props {
    groups: readonly SilentTasks[];
    /** What the tasks are, where they are counted. */
    one?: string;
    many?: string;
  }

  let { groups, one = 'task', many = 'tasks' }: Props = $props();
  const send = getContext<Send>('send');
  const done = getContext<(done: Done) => void>('done');
  const { clock, person } = $derived((page.data as { frame: FrameView }).frame);
  const today = $derived(parseDay(clock.date));
  let mending = $state(false);

  /** A press that mends all tasks of a reason. */
  interface Press {
    words: string;
    change: object;
  }
  /** Where else it is mended, one by one. */
  interface Place {
    words: string;
    href: string;
  }
  const presses = $derived<Readonly<Record<string, Press>>>({
    ...Object.fromEntries(
      ['no date', 'no due date'].map((reason) => [
        reason,
        {
          words: `Set due date: ${shortDay(today + 7, today)}`,
          change: { act: 'due', date: formatDay(today + 7) }
        }
      ])
    ),
    'no owner': { words: 'Make me the owner', change: { act: 'owner', id: person.id } }
  });
  const PLACES: Readonly<Record<string, Place>> = {
    'no date': { words: 'Show in the list', href: '/tasks?due=none' },
    'no due date': { words: 'Show in the list', href: '/tasks?due=none' },
    'no owner': { words: 'Show in the list', href: '/tasks?owner=none' },
    'an owner without a manager': { words: 'give them a manager', href: '/people' },
    'nobody with an address': { words: 'Add an address', href: '/people' },
    'outside every Watch': { words: 'Add a rule for them', href: '/rules/starters' },
    'every lead past': { words: 'Show in the list', href: '/tasks?show=out+of+earshot' }
  };

  async function mend({ ids }: SilentTasks, { change }: Press) {
    mending = true;
    const answer = await send<{ message: string; changeId: number }>('/tasks/bulk', {
      ids,
      query: '',
      change
    });
    mending = false;
    if ('failed' in answer) return;
    done({ done: answer.message, changeId: answer.changeId });
    await invalidateAll();
  }
</script>

<ul>
  {#each groups as group (group.reason)}
    {@const press = presses[group.reason]}
    {@const place = PLACES[group.reason]}
    {@const rest = group.count - Math.min(2, group.tasks.length)}
    <li>
      <span
        >{group.count}
        {group.count === 1 ? one : many}: {group.reason}
        <span class="quiet"
          >({#each group.tasks.slice(0, 2) as task, i (task.id)}{i > 0 ? ', ' : ''}<a href="/tasks/{task.id}"
              >{task.name}</a
            >{/each}{rest > 0 ? ` and ${rest} more` : ''})</span
        ></span
      >
      <span class="mends">
        {#if press}
          <button type="button" class="mend" disabled={mending} onclick={() => mend(group, press)}
            >{press.words}{group.count > group.ids.length ? `, the first ${group.ids.length}` : ''}</button
          >
        {/if}
        {#if place}<a href={place.href}>{press ? `or ${place.words}` : place.words}</a>{/if}
      </span>
    </li>
  {/each}
</ul>

<style>
  li {
    padding: 1px 0;
  }
  .mends {
    display: inline-flex;
    flex-wrap: wrap;
    gap: 4px 10px;
  }
  .mend {
    color: var(--brass-deep);
    text-decoration: underline;
    text-underline-offset: 3px;
    font-weight: 550;
    cursor: pointer;
  }
  .mend:disabled {
    opacity: 0.55;
  }
</style>
