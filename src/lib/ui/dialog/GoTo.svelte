<script lang="ts">
  import { goto } from '$app/navigation';
  import { plain } from '$lib/core/plain.ts';
  import type { GoToItem } from '$lib/view/go-to.ts';
  import type { Place } from '../frame/places.ts';
  import Dialog from './Dialog.svelte';
  import { recent } from './recent.ts';

  /** Something to be gone to or done. */
  interface Target {
    key: string;
    name: string;
    note: string;
    go: () => unknown;
  }
  interface Props {
    places: readonly Place[];
    /** What can be done from anywhere: “New rule”. */
    acts: readonly { name: string; do: () => unknown }[];
    find: (text: string) => Promise<GoToItem[]>;
    onclose: () => void;
  }

  let { places, acts, find, onclose }: Props = $props();

  const id = $props.id();
  let input = $state<HTMLInputElement>();
  let typed = $state('');
  let found: GoToItem[] = $state.raw([]);
  let at = $state(0);
  let asked = 0;
  const KIND_WORDS = { task: 'Task', project: 'Project', person: 'Person', rule: 'Rule' } as const;

  const groups = $derived.by(() => {
    const words = plain(typed);
    const fits = (name: string) => words.split(' ').every((word) => plain(name).includes(word));
    const lists: [string, Target[]][] = [];
    if (words === '') lists.push(['Recent', recent.list().map(({ href, name }) => target(href, name, ''))]);
    lists.push([
      'Places',
      places.filter(({ label }) => fits(label)).map(({ href, label }) => target(href, label, ''))
    ]);
    lists.push([
      'Do',
      acts
        .filter(({ name }) => fits(name))
        .map((act) => ({ key: act.name, name: act.name, note: '', go: act.do }))
    ]);
    lists.push([
      'Found',
      found.map(({ kind, href, name, note }) =>
        target(href, name, [KIND_WORDS[kind], note].filter(Boolean).join(' · '))
      )
    ]);
    return lists.filter(([, targets]) => targets.length > 0);
  });
  const all = $derived(groups.flatMap(([, targets]) => targets));

  function target(href: string, name: string, note: string): Target {
    return { key: href, name, note, go: () => goto(href) };
  }

  function look() {
    at = 0;
    const own = ++asked;
    if (typed.trim() === '') return void (found = []);
    setTimeout(async () => {
      if (own !== asked) return;
      const items = await find(typed);
      if (own === asked) found = items;
    }, 120);
  }

  function choose(one: Target | undefined) {
    if (!one) return;
    onclose();
    void one.go();
  }

  function onkeydown(event: KeyboardEvent) {
    if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      event.preventDefault();
      at = (at + (event.key === 'ArrowDown' ? 1 : all.length - 1)) % Math.max(1, all.length);
      document.getElementById(`${id}-${at}`)?.scrollIntoView({ block: 'nearest' });
    } else if (event.key === 'Enter') {
      event.preventDefault();
      choose(all[at]);
    }
  }
</script>

<Dialog label="Go to" open first={() => input ?? null} {onclose}>
  <input
    bind:this={input}
    class="value line"
    type="text"
    role="combobox"
    autocomplete="off"
    aria-label="Go to a task, person, rule, project or place"
    placeholder="Task, person, rule, project, place"
    aria-expanded="true"
    aria-controls="{id}-list"
    aria-activedescendant={all[at] ? `${id}-${at}` : undefined}
    maxlength="100"
    bind:value={typed}
    oninput={look}
    {onkeydown}
  />
  <div id="{id}-list" role="listbox" aria-label="Found">
    {#each groups as [group, targets] (group)}
      <div role="group" aria-label={group}>
        <p class="group" aria-hidden="true">{group}</p>
        {#each targets as one (one.key)}
          {@const i = all.indexOf(one)}
          <!-- Chosen by the keyboard in the input. -->
          <div
            id="{id}-{i}"
            role="option"
            tabindex="-1"
            aria-selected={i === at}
            onmousemove={() => (at = i)}
            onmousedown={(event) => {
              event.preventDefault();
              choose(one);
            }}
          >
            <span dir="auto">{one.name}</span> <span class="quiet">{one.note}</span>
          </div>
        {/each}
      </div>
    {:else}<p class="quiet none">Nothing is called “{typed}”.</p>{/each}
  </div>
</Dialog>

<style>
  .line {
    width: 100%;
    min-height: 40px;
    font-size: 16px;
  }
  .group {
    margin-top: 10px;
    font-size: 11.5px;
    font-weight: 600;
    color: var(--ink-3);
  }
  [role='option'] {
    display: flex;
    flex-wrap: wrap;
    justify-content: space-between;
    gap: 2px 12px;
    padding: 6px 8px;
    border-radius: 6px;
    cursor: pointer;
  }
  [role='option'][aria-selected='true'] {
    background: var(--brass-wash);
  }
  .none {
    margin-top: 10px;
  }
</style>
