import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, it } from 'vitest';
import { openSoak } from '../soak/open-soak.ts';
import { soak } from '../soak/soak.ts';
// @ts-expect-error a plain script
import { ensureBuild } from '../../scripts/setup.mjs';

/** The short form of `npm run soak`: what grows without bound grows here too. How long answers take is no matter of a test. */
it('asked twenty things a second while its clock goes on, the server answers all of them and keeps its files few', async () => {
  await (ensureBuild as () => Promise<void>)();
  const folder = mkdtempSync(join(tmpdir(), 'early-bell-soak-'));
  const { server, with: what, close } = await openSoak(folder);
  try {
    const { samples, requests, failed } = await soak(server, folder, { seconds: 25, ...what });
    expect(failed).toEqual({});
    expect(requests).toBeGreaterThan(50);
    const most = (of: (one: (typeof samples)[number]) => number) => Math.max(...samples.map(of));
    expect(most(({ log }) => log)).toBeLessThan(64);
    expect(most(({ descriptors }) => descriptors)).toBeLessThan(samples[0]!.descriptors + 40);
  } finally {
    await close();
    rmSync(folder, { recursive: true, force: true });
  }
}, 300_000);
