<script lang="ts">
  import { announce } from '$lib/ui/frame/notices.svelte.ts';
  import type { DeskThingsView } from '$lib/view/desk.ts';
  import Habit from './Habit.svelte';
  import type { DeskAct } from './placer.svelte.ts';

  /** Besides tasks: counts of saved lists, lines kept without any duty, and texts that are used often. */
  let { things, act }: { things: DeskThingsView; act: DeskAct } = $props();

  let line = $state('');
  let shelving = $state.raw<{ id: number | null; everybody: boolean } | null>(null);
  let name = $state('');
  let text = $state('');
  let everybody = $state(false);
  let pinning = $state(false);
  let list = $state('');
  let group = $state('');

  async function keep() {
    if (await act('keep', { text: line })) line = '';
  }

  function openShelf(item: DeskThingsView['shelf'][number] | null) {
    shelving = { id: item?.id ?? null, everybody: item ? !item.own : false };
    name = item?.name ?? '';
    text = item?.text ?? '';
    everybody = shelving.everybody;
  }

  async function shelve() {
    if (await act('shelve', { id: shelving?.id ?? null, name, text, everybody })) shelving = null;
  }

  async function pin() {
    if (await act('pin', { list: Number(list), group: group === '' ? null : Number(group) })) pinning = false;
  }

  async function copy(item: DeskThingsView['shelf'][number]) {
    try {
      await navigator.clipboard.writeText(item.text);
      announce(`“${item.name}” was copied.`);
    } catch {
      announce('The browser does not let this page copy. Select the text and copy it yourself.', 'error');
      openShelf(item);
    }
  }

  const isLink = (value: string) => /^https?:\/\/\S+$/.test(value);
</script>

<div class="things">
  <section aria-labelledby="lines">
    <h2 id="lines">Kept lines <span class="count">{things.captures.length}</span></h2>
    <form
      onsubmit={(event) => {
        event.preventDefault();
        void keep();
      }}
    >
      <input
        class="value"
        aria-label="Keep a line"
        placeholder="Keep a line: no duty, no reminder"
        maxlength="500"
        bind:value={line}
      />
      <button class="button" disabled={line.trim() === ''}>Keep</button>
    </form>
    <ul aria-label="Kept lines">
      {#each things.captures as one (one.id)}
        <li>
          <span>{one.text} <span class="quiet">{one.at}</span></span>
          <span class="acts">
            <button
              class="link"
              aria-label="Make it a task: {one.text}"
              onclick={() => void act('make task', { id: one.id })}>Make it a task</button
            >
            <button
              class="link"
              aria-label="Discard: {one.text}"
              onclick={() => void act('discard', { id: one.id })}>Discard</button
            >
          </span>
        </li>
      {/each}
    </ul>
    <Habit habit={things.habit} {act} />
  </section>

  <section aria-labelledby="shelf">
    <h2 id="shelf">Shelf <span class="count">{things.shelf.length}</span></h2>
    {#if things.shelf.length === 0 && !shelving}<p class="quiet">
        Texts and links that you use often. One press copies.
      </p>{/if}
    <ul aria-label="Shelf">
      {#each things.shelf as item (item.id)}
        <li>
          <span>
            {#if isLink(item.text)}<a href={item.text} rel="noreferrer external">{item.name}</a
              >{:else}{item.name}{/if}
            {#if !item.own}<span class="quiet">of the team</span>{/if}
          </span>
          <span class="acts">
            <button class="link" aria-label="Copy: {item.name}" onclick={() => void copy(item)}>Copy</button>
            {#if item.mayChange}
              <button class="link" aria-label="Change: {item.name}" onclick={() => openShelf(item)}
                >Change</button
              >
              <button
                class="link"
                aria-label="Remove: {item.name}"
                onclick={() => void act('unshelve', { id: item.id })}>Remove</button
              >
            {/if}
          </span>
        </li>
      {/each}
    </ul>
    {#if shelving}
      <form
        class="edit"
        onsubmit={(event) => {
          event.preventDefault();
          void shelve();
        }}
      >
        <label class="field"
          ><span class="label">Name</span><input class="value" maxlength="100" bind:value={name} /></label
        >
        <label class="field"
          ><span class="label">Text or link</span><textarea
            class="value"
            rows="3"
            maxlength="5000"
            bind:value={text}></textarea></label
        >
        {#if things.mayShare}<label><input type="checkbox" bind:checked={everybody} /> For everybody</label
          >{/if}
        <span class="acts">
          <button class="button main" disabled={name.trim() === '' || text.trim() === ''}>Save</button>
          <button type="button" class="button" onclick={() => (shelving = null)}>Cancel</button>
        </span>
      </form>
    {:else}
      <button class="link" onclick={() => openShelf(null)}>Put something on the shelf</button>
    {/if}
  </section>

  <section aria-labelledby="tallies">
    <h2 id="tallies">Counts <span class="count">{things.tallies.length}</span></h2>
    {#if things.tallies.length === 0 && !pinning}<p class="quiet">
        Saved lists, counted as they stand. A press opens the list.
      </p>{/if}
    <ul aria-label="Counts">
      {#each things.tallies as one (one.id)}
        <li>
          <a class="tally" href="/tasks{one.query ? `?${one.query}` : ''}"
            ><b>{one.count.toLocaleString('en')}</b> {one.name}</a
          >
          <span class="acts">
            {#if one.group}<span class="quiet">for {one.group}</span>{/if}
            {#if one.mayDrop}<button
                class="link"
                aria-label="Remove the count {one.name}"
                onclick={() => void act('unpin', { id: one.id })}>Remove</button
              >{/if}
          </span>
        </li>
      {/each}
    </ul>
    {#if pinning}
      <form
        class="edit"
        onsubmit={(event) => {
          event.preventDefault();
          void pin();
        }}
      >
        <label class="field"
          ><span class="label">Saved list</span>
          <select class="value" bind:value={list}>
            <option value="">choose</option>
            {#each things.lists as one (one.id)}<option value={String(one.id)}>{one.name}</option>{/each}
          </select></label
        >
        {#if things.groups.length > 0}
          <label class="field"
            ><span class="label">On the Desk of</span>
            <select class="value" bind:value={group}>
              <option value="">myself</option>
              {#each things.groups as one (one.id)}<option value={String(one.id)}
                  >everybody in {one.name}</option
                >{/each}
            </select></label
          >
        {/if}
        <span class="acts">
          <button class="button main" disabled={list === ''}>Count it</button>
          <button type="button" class="button" onclick={() => (pinning = false)}>Cancel</button>
        </span>
      </form>
    {:else if things.lists.length > 0}
      <button class="link" onclick={() => (pinning = true)}>Count a saved list</button>
    {:else if things.tallies.length === 0}
      <p class="quiet">Save a list under <a href="/tasks">Tasks</a> first.</p>
    {/if}
  </section>
</div>

<style>
  .things {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(270px, 1fr));
    gap: 16px 30px;
    padding-top: 8px;
    border-top: 1px solid var(--line);
  }
  .count {
    font-weight: 450;
    color: var(--ink-2);
  }
  form {
    display: flex;
    gap: 6px;
    margin-block: 4px;
  }
  form .value {
    flex: 1;
    min-width: 0;
  }
  .edit {
    display: grid;
  }
  li {
    display: flex;
    justify-content: space-between;
    gap: 10px;
    padding: 3px 0;
    border-bottom: 1px solid var(--line-soft);
    overflow-wrap: anywhere;
  }
  .acts {
    display: flex;
    gap: 10px;
    align-items: center;
    white-space: nowrap;
  }
  .link {
    min-height: 24px;
    color: var(--brass-ink);
    font-size: 12.5px;
    cursor: pointer;
  }
  .link:hover {
    text-decoration: underline;
  }
  .tally {
    text-decoration: none;
  }
  .tally b {
    font-size: 16px;
    margin-right: 4px;
  }
  @media (max-width: 900px) {
    .link,
    form .button,
    form .value {
      min-height: 44px;
    }
    .tally {
      min-height: 44px;
      align-content: center;
    }
  }
</style>
