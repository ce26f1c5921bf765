import { readdirSync } from 'node:fs';
import { expect, it } from 'vitest';
import { MIGRATIONS } from './migrations.ts';

it('lists every file of migrations, in order: one that is not listed is never made', () => {
  const files = readdirSync(new URL('migrations', import.meta.url)).sort();
  expect(MIGRATIONS.map(({ name }) => `${name}.sql`)).toEqual(files);
});
