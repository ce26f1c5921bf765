<script lang="ts">
  import type { Deed } from '$lib/core/access/deeds.ts';
  import Mark from './Mark.svelte';
  import { placesFor } from './places.ts';

  /** The left rail: the places that exist, in their groups. */
  let { path, postRoom, deeds }: { path: string; postRoom: boolean; deeds: readonly Deed[] } = $props();

  const open = $derived(placesFor(deeds, postRoom));
  const groups = $derived(
    [...new Set(open.map(({ group }) => group))].map((name) => ({
      name,
      places: open.filter(({ group }) => group === name)
    }))
  );

  let rail: HTMLElement;
  // On a narrow screen the places are one line that is wider than it: the present one is in sight.
  $effect(() => {
    const here = path && rail.querySelector<HTMLElement>('[aria-current]');
    if (here) rail.scrollLeft = here.offsetLeft - (rail.clientWidth - here.offsetWidth) / 2;
  });

  const isHere = (href: string) =>
    href === '/' ? path === '/' : path === href || path.startsWith(`${href}/`);
</script>

<nav class="rail no-print" aria-label="Places" bind:this={rail}>
  <a class="brand" href="/"><Mark /> Early Bell</a>
  {#each groups as group (group.name)}
    <p class="group">{group.name}</p>
    <ul>
      {#each group.places as { href, label, icon: Icon } (href)}
        <li>
          <a {href} aria-current={isHere(href) ? 'page' : undefined}
            ><Icon size={16} strokeWidth={1.75} />{label}</a
          >
        </li>
      {/each}
    </ul>
  {/each}
</nav>

<style>
  .rail {
    border-right: 1px solid var(--line);
    position: sticky;
    top: 0;
    height: 100vh;
    overflow-y: auto;
    padding-bottom: 12px;
  }
  .brand {
    height: 46px;
    display: flex;
    align-items: center;
    gap: 9px;
    padding: 0 16px;
    font:
      650 17px 'Bricolage Grotesque Variable',
      sans-serif;
    border-bottom: 1px solid var(--line);
    text-decoration: none;
  }
  .group {
    font-size: 11px;
    font-weight: 600;
    color: var(--ink-3);
    padding: 14px 16px 4px;
  }
  li a {
    display: flex;
    align-items: center;
    gap: 9px;
    padding: 5px 16px;
    color: var(--ink-2);
    text-decoration: none;
    position: relative;
  }
  li a:hover {
    color: var(--ink);
  }
  li a[aria-current='page'] {
    color: var(--ink);
    font-weight: 600;
  }
  li a[aria-current='page']::before {
    content: '';
    position: absolute;
    left: 0;
    top: 4px;
    bottom: 4px;
    width: 3px;
    background: var(--brass);
    border-radius: 0 3px 3px 0;
  }
  @media (forced-colors: active) {
    li a[aria-current='page']::before {
      background: Highlight;
    }
  }
  @media (max-width: 900px) {
    .rail {
      position: static;
      height: auto;
      display: flex;
      align-items: center;
      overflow-x: auto;
      padding: 0;
      border-right: 0;
      border-bottom: 1px solid var(--line);
    }
    .brand {
      border: 0;
      padding-right: 10px;
    }
    .brand,
    li a {
      white-space: nowrap;
    }
    .group {
      display: none;
    }
    ul {
      display: flex;
    }
    li a {
      padding: 12px 10px;
    }
    li a[aria-current='page']::before {
      left: 10px;
      right: 10px;
      top: auto;
      bottom: 0;
      width: auto;
      height: 3px;
      border-radius: 3px 3px 0 0;
    }
  }
</style>
