import Desk from '@lucide/svelte/icons/list-todo';
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

/** A place that can be gone to. */
export interface Place {
  group: string;
  href: string;
  label: string;
  icon: typeof Bell;
  /** What somebody must be allowed to see it. */
  deed: Deed;
}

/** Every place of the product, in its group, in the order of the rail. */
const PLACES: readonly Place[] = [
  { group: 'Now', href: '/', label: 'Bell tower', icon: Eye, deed: 'watch the whole team' },
  { group: 'Now', href: '/desk', label: 'Desk', icon: Desk, deed: 'work with tasks' },
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

/** Those that somebody may see. @param postRoom whether there is a Post room */
export function placesFor(deeds: readonly Deed[], postRoom: boolean): Place[] {
  return PLACES.filter(({ deed, href }) => deeds.includes(deed) && (href !== '/post-room' || postRoom));
}
