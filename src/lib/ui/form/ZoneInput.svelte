<script lang="ts">
  import { placeOfZone } from '$lib/core/time/zone-names.ts';
  import type { ZoneChoice } from '$lib/view/people.ts';

  /** A zone, picked by place: what is typed is looked for in place and name, and the time there now stands beside each. */
  interface Props {
    name: string;
    value: string;
    zones: readonly ZoneChoice[];
    id?: string;
    onchange?: (zone: string) => void;
    'aria-describedby'?: string;
    'aria-invalid'?: boolean;
  }

  let { name, value, zones, id, onchange, ...rest }: Props = $props();
  const listId = $props.id();
  const MOST = 8;

  let typed = $derived(value);
  let shown = $state(false);
  let at = $state(0);

  const plain = (text: string) => text.toLowerCase().replaceAll(/[_/]/g, ' ').trim();
  const chosen = $derived(zones.find((zone) => zone.name === typed));
  const found = $derived.by(() => {
    const words = plain(typed);
    if (words === '' || chosen) return zones.filter(({ name: zone }) => zone === typed).slice(0, MOST);
    const starts = zones.filter((zone) => plain(placeOfZone(zone.name)).startsWith(words));
    const rest = zones.filter((zone) => !starts.includes(zone) && plain(zone.name).includes(words));
    return [...starts, ...rest].slice(0, MOST);
  });

  function choose(zone: ZoneChoice) {
    typed = zone.name;
    shown = false;
    onchange?.(zone.name);
  }

  function onkeydown(event: KeyboardEvent) {
    if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      event.preventDefault();
      shown = true;
      at = (at + (event.key === 'ArrowDown' ? 1 : -1) + found.length) % Math.max(1, found.length);
    } else if (event.key === 'Enter' && shown) {
      const zone = found[at];
      if (!zone) return;
      event.preventDefault();
      choose(zone);
    } else if (event.key === 'Escape') shown = false;
  }
</script>

<div class="zone">
  <input
    class="value"
    type="text"
    autocomplete="off"
    role="combobox"
    aria-expanded={shown && found.length > 0}
    aria-controls="{listId}-list"
    aria-autocomplete="list"
    aria-activedescendant={shown && found[at] ? `${listId}-${at}` : undefined}
    {id}
    {name}
    bind:value={typed}
    oninput={() => {
      // A name that is whole needs no list over what stands below.
      shown = !chosen;
      at = 0;
      onchange?.(typed);
    }}
    onblur={() => (shown = false)}
    {onkeydown}
    {...rest}
  />
  {#if chosen}<span class="quiet">now {chosen.time} there</span>{/if}
  <ul id="{listId}-list" role="listbox" aria-label="Places" hidden={!shown || found.length === 0}>
    {#each found as zone, i (zone.name)}
      <!-- Chosen on press, before the input loses the focus; the keyboard chooses in the input. -->
      <li
        id="{listId}-{i}"
        role="option"
        aria-selected={i === at}
        onmousedown={(event) => {
          event.preventDefault();
          choose(zone);
        }}
      >
        <b>{placeOfZone(zone.name)}</b> <span class="quiet">{zone.name}</span>
        <span class="time">{zone.time}</span>
      </li>
    {/each}
  </ul>
</div>

<style>
  .zone {
    position: relative;
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 4px 10px;
  }
  input {
    flex: 1 1 200px;
  }
  ul {
    position: absolute;
    z-index: 20;
    top: 34px;
    left: 0;
    right: 0;
    background: var(--sheet);
    border: 1px solid var(--line);
    border-radius: 7px;
    padding: 4px 0;
    box-shadow: 0 8px 24px rgb(0 0 0 / 12%);
  }
  li {
    display: flex;
    gap: 8px;
    align-items: baseline;
    padding: 4px 10px;
    cursor: pointer;
  }
  li[aria-selected='true'],
  li:hover {
    background: var(--brass-wash);
  }
  .time {
    margin-left: auto;
  }
</style>
