import { namesOf } from '../names-of.ts';
/** What somebody may see and do. */
export const ROLES = ['owner', 'manager', 'coordinator', 'administrator'] as const;
export type Role = (typeof ROLES)[number];

/**
 * What each role may do: the one table that routes, actions and screens ask. Which rows somebody sees within it is said by
 * the store of tasks.
 */
const COORDINATING: readonly Role[] = ['coordinator', 'administrator'];
const EVERYBODY: readonly Role[] = ['owner', 'manager', ...COORDINATING];

const DEEDS = {
  /** Their own tasks, their projects' and, for a manager, their reports'. */
  'work with tasks': EVERYBODY,
  'see people': EVERYBODY,
  /** Their own zone, leave, quiet hours and sessions. */
  'keep their own page': EVERYBODY,
  'undo what they did': EVERYBODY,
  'watch the whole team': COORDINATING,
  'bring tasks in': COORDINATING,
  'make rules': COORDINATING,
  'look after people': COORDINATING,
  'look after projects': COORDINATING,
  'keep calendars': COORDINATING,
  'read the Post room': COORDINATING,
  'move the demo clock': COORDINATING,
  'give access': ['administrator'],
  'change settings': ['administrator']
} as const satisfies Record<string, readonly Role[]>;

export type Deed = keyof typeof DEEDS;

export function may(role: Role, deed: Deed): boolean {
  return (DEEDS[deed] as readonly Role[]).includes(role);
}

/** Everything a role may do, for screens: what is not there is not offered. */
export function deedsOf(role: Role): Deed[] {
  return namesOf(DEEDS).filter((deed) => may(role, deed));
}
