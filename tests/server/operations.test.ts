import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, describe, expect, it } from 'vitest';
import { createContainer } from '../../src/lib/server/container.ts';
import { claimWorkspace, tryClaim } from '../../src/lib/server/db/claim.ts';
import { lead, openWorkspace, ruleOf, ruleOn, taskInput } from '../support/workspace.ts';

const folders: string[] = [];
const newFolder = () => {
  const folder = mkdtempSync(join(tmpdir(), 'early-bell-claim-'));
  folders.push(folder);
  return folder;
};
afterEach(() => {
  for (const folder of folders.splice(0)) rmSync(folder, { recursive: true });
});

describe('a workspace', () => {
  it('is one process’s at a time; the next waits, and has it when the first lets go', async () => {
    const folder = newFolder();
    const first = tryClaim(folder)!;
    expect(tryClaim(folder)).toBeNull();
    let waited = 0;
    const second = claimWorkspace(folder, () => waited++);
    await expect.poll(() => waited).toBe(1);
    first.release();
    (await second).release();
    expect(waited).toBe(1);
  });

  it('is free again when the process that had it is killed', async () => {
    const folder = newFolder();
    const code = `const D = require('better-sqlite3'); const lock = new D(${JSON.stringify(join(folder, 'early-bell.lock'))});
      lock.exec('BEGIN EXCLUSIVE'); console.log('held'); setInterval(() => {}, 1000);`;
    const child = spawn(process.execPath, ['-e', code], { stdio: ['ignore', 'pipe', 'inherit'] });
    await new Promise((resolve) => child.stdout.once('data', resolve));
    expect(tryClaim(folder)).toBeNull();
    const gone = new Promise((resolve) => child.once('exit', resolve));
    child.kill('SIGKILL');
    await gone;
    tryClaim(folder)!.release();
  });
});

describe('the log', () => {
  it('says what went wrong, and nothing by which somebody could come in or send', () => {
    const lines: string[] = [];
    const container = createContainer({
      dataDir: ':memory:',
      demo: false,
      mail: { host: '127.0.0.1', port: 1 },
      chat: 'http://chat.example/hooks/do-not-show-me',
      text: { url: 'http://text.example', token: 'do-not-show-me', from: 'Bell' },
      origin: 'http://early-bell.test',
      logTo: { write: (line) => lines.push(line) }
    });
    const failure = Object.assign(new Error('The line broke.'), {
      code: 'EAUTH',
      auth: { user: 'bell', pass: 'do-not-show-me' },
      config: { password: 'do-not-show-me', url: 'http://chat.example/hooks/do-not-show-me' }
    });
    container.log.error({ err: failure, headers: { authorization: 'Bearer do-not-show-me' } }, 'fault');
    expect(lines.join('')).toContain('The line broke.');
    expect(lines.join('')).toContain('EAUTH');
    expect(lines.join('')).not.toContain('do-not-show-me');
    container.db.close();
  });
});

describe('what the application counts of itself', () => {
  // OpenMetrics 1.0, "ABNF": counters end in _total, the text ends in # EOF.
  it('is OpenMetrics text, and names nobody', async () => {
    const workspace = await openWorkspace('2026-03-05T07:40:00Z');
    const { container } = workspace;
    container.tasks.add(
      workspace.coordinator,
      taskInput({ name: 'Renew it', ownerId: workspace.people.Meera!, dueDate: '2026-03-06' })
    );
    ruleOn(workspace, ruleOf([lead(0, 'day')]));
    await container.engine.moveClock(Date.parse('2026-03-06T12:00:00Z'));
    const { text, contentType } = await container.meters.text();
    expect(contentType).toMatch(/^application\/openmetrics-text; version=1\.0\.0/);
    expect(text.trimEnd().endsWith('# EOF')).toBe(true);
    expect(text).toMatch(/^early_bell_attempts_total\{channel="mail",end="accepted"\} 1$/m);
    expect(text).toMatch(/^early_bell_deliveries_unfinished 0$/m);
    expect(text).toMatch(/^early_bell_slice_seconds_count\{kind="ring"\} [1-9]/m);
    expect(text).not.toMatch(/Renew|Meera|test\.example/);
    await workspace.close();
  });
});
