import { describe, expect, it } from 'vitest';
import { ROLES, may } from '../../src/lib/core/access/deeds.ts';
import { ROUTES, deedOf } from '../../src/lib/server/auth/routes.ts';

/** Every route and every act of the tree stands in the table of access, and nothing else does. */
const METHODS = ['GET', 'POST', 'PUT', 'PATCH', 'DELETE'];
type Module = Partial<Record<string, unknown>> & { actions?: Record<string, unknown> };
const pages = import.meta.glob('../../src/routes/**/+page.svelte');
const servers = import.meta.glob<Module>('../../src/routes/**/+{page.server,server}.ts');

const routeOf = (path: string) =>
  path.replace('../../src/routes', '').replace(/\/\+(page\.svelte|page\.server\.ts|server\.ts)$/, '') || '/';

describe('the table of access', () => {
  it('has every route of the tree with its acts, and no other', async () => {
    const tree = new Map<string, { reads: boolean; acts: string[] }>();
    const at = (route: string) => tree.get(route) ?? { reads: false, acts: [] };
    for (const path of Object.keys(pages)) tree.set(routeOf(path), { ...at(routeOf(path)), reads: true });
    for (const [path, load] of Object.entries(servers)) {
      const module = await load();
      const methods = METHODS.filter((method) => method in module);
      const before = at(routeOf(path));
      tree.set(routeOf(path), {
        reads: before.reads || methods.includes('GET'),
        acts: [
          ...before.acts,
          ...methods.filter((method) => method !== 'GET'),
          ...Object.keys(module.actions ?? {})
        ]
      });
    }
    const found = [...tree].map(([route, { reads, acts }]) => [route, reads, acts.sort()]).sort();
    const table = Object.entries(ROUTES)
      .map(([route, { read, acts }]) => [route, read !== undefined, Object.keys(acts ?? {}).sort()])
      .sort();
    expect(table).toEqual(found);
  });

  it('refuses what it does not know, and lets nobody do less than a lower role may', () => {
    expect(deedOf('/(app)/nowhere', null)).toBeNull();
    expect(deedOf('/(app)/people', 'POST')).toBeNull();
    const deeds = Object.values(ROUTES).flatMap(({ read, acts }) => [read, ...Object.values(acts ?? {})]);
    for (const deed of deeds) {
      if (deed === undefined || deed === 'anybody') continue;
      const allowed = ROLES.map((role) => may(role, deed));
      expect(allowed).toEqual([...allowed].sort());
    }
  });
});
