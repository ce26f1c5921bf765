<script lang="ts">
  import Archive from '@lucide/svelte/icons/archive';
  import Bell from '@lucide/svelte/icons/bell';
  import CalendarDays from '@lucide/svelte/icons/calendar-days';
  import FolderOpen from '@lucide/svelte/icons/folder-open';
  import Eye from '@lucide/svelte/icons/eye';
  import List from '@lucide/svelte/icons/list';
  import Mail from '@lucide/svelte/icons/mail';
  import Newspaper from '@lucide/svelte/icons/newspaper';
  import ScrollText from '@lucide/svelte/icons/scroll-text';
  import Send from '@lucide/svelte/icons/send';
  import Steps from '@lucide/svelte/icons/chart-no-axes-column-increasing';
  import Users from '@lucide/svelte/icons/users';
  import SlidersHorizontal from '@lucide/svelte/icons/sliders-horizontal';
  import type { Deed } from '$lib/core/access/deeds.ts';
  import Mark from './Mark.svelte';

  /** The left rail: the places that exist, in their groups. */
  let { path, postRoom, deeds }: { path: string; postRoom: boolean; deeds: readonly Deed[] } = $props();

  const PLACES: readonly { group: string; href: string; label: string; icon: typeof Bell; deed: Deed }[] = [
    { group: 'Now', href: '/', label: 'Bell tower', icon: Eye, deed: 'watch the whole team' },
    { group: 'Work', href: '/tasks', label: 'Tasks', icon: List, deed: 'work with tasks' },
    { group: 'Work', href: '/projects', label: 'Projects', icon: FolderOpen, deed: 'work with tasks' },
    { group: 'Bells', href: '/rules', label: 'Rules', icon: Bell, deed: 'make rules' },
    { group: 'Bells', href: '/digests', label: 'Digests', icon: Newspaper, deed: 'make rules' },
    { group: 'Bells', href: '/sweeps', label: 'Sweeps', icon: Archive, deed: 'make rules' },
    { group: 'Bells', href: '/escalations', label: 'Escalations', icon: Steps, deed: 'work with tasks' },
    { group: 'Record', href: '/outbox', label: 'Outbox', icon: Send, deed: 'watch the whole team' },
    { group: 'Record', href: '/journal', label: 'Journal', icon: ScrollText, deed: 'watch the whole team' },
    { group: 'Record', href: '/post-room', label: 'Post room', icon: Mail, deed: 'read the Post room' },
    { group: 'Set-up', href: '/people', label: 'People', icon: Users, deed: 'see people' },
    { group: 'Set-up', href: '/calendars', label: 'Calendars', icon: CalendarDays, deed: 'see people' },
    {
      group: 'Set-up',
      href: '/settings',
      label: 'Settings',
      icon: SlidersHorizontal,
      deed: 'change settings'
    }
  ];
  const open = $derived(
    PLACES.filter(({ deed, href }) => deeds.includes(deed) && (href !== '/post-room' || postRoom))
  );
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
