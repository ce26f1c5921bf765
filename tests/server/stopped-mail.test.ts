import { createTransport } from 'nodemailer';
import { describe, expect, it } from 'vitest';
import type { Lead } from '../../src/lib/core/rule/lead-model.ts';
import { readStopToken, stopToken } from '../../src/lib/server/engine/stop-tokens.ts';
import { readTextToken, textToken } from '../../src/lib/server/engine/text-tokens.ts';
import { outboxPage } from '../../src/lib/server/record/outbox-views.ts';
import { ReturnedMail } from '../../src/lib/server/channel/returned-mail.ts';
import { add, eachInAWorkspace, moveTo, workspace } from '../support/rules.ts';
import { lead, openWorkspace, received, ruleOf, ruleOn, taskInput } from '../support/workspace.ts';
import { zoneNamed } from '../../src/lib/core/time/zone.ts';

/** Mail that its reader stops, what they answer, and the short link of a text message. */
eachInAWorkspace();

const onTheDay: Lead = lead(0, 'day', { time: '10:00' });
const stopHeader = async (id: number) => {
  const { headers } = (await workspace.container.postRoom.message(id))!;
  return /^list-unsubscribe: (.*)$/im.exec(headers!)?.[1]?.trim() ?? '';
};

async function remind(name = 'Ines', date = '2026-03-05') {
  add({ name: 'Renew it', ownerId: workspace.people[name]!, dueDate: date });
  await moveTo(`${date}T23:00Z`);
}
const tokenOf = (header: string) => /\/mail\/([^>]+)>/.exec(header)![1]!;

describe('the link by which mail is stopped', () => {
  it('stands in each message of a rule, of its kind, and stops that kind by mail alone until it is taken back', async () => {
    const { container, people } = workspace;
    ruleOn(workspace, ruleOf([onTheDay], { reach: 'any time' }));
    await remind();
    const [message] = await received(workspace);
    const header = await stopHeader(message!.id);
    expect(header).toMatch(/^<http:\/\/early-bell\.test\/mail\/[\w-]+>$/);
    const token = tokenOf(header);
    const view = () => container.mailStops.view(token);
    expect(view()).toMatchObject({
      reader: 'Ines',
      kinds: ['due today'],
      stopped: false,
      instead: 'in the app'
    });
    container.mailStops.stop(token);
    container.mailStops.stop(token);
    expect(view().stopped).toBe(true);
    expect(container.stores.people.byId(people.Ines!)!.channels).toEqual({ 'due today': ['in-app'] });
    await remind('Ines', '2026-03-06');
    expect(await received(workspace)).toHaveLength(1);
    container.mailStops.goOn(token);
    expect(container.stores.people.byId(people.Ines!)!.channels).toEqual({});
    await remind('Ines', '2026-03-09');
    expect(await received(workspace)).toHaveLength(2);
  });

  it('is not there where a rule insists on mail, nor is it anybody else’s', async () => {
    ruleOn(workspace, ruleOf([onTheDay], { reach: 'any time', channels: ['mail'] }));
    await remind();
    expect(await stopHeader((await received(workspace))[0]!.id)).toBe('');
    const key = workspace.container.stores.actLinks.key();
    const token = stopToken(key, { readerId: 1, kinds: ['overdue', 'digest of due'] });
    expect(readStopToken(key, token)).toEqual({ readerId: 1, kinds: ['overdue', 'digest of due'] });
    for (const forged of [token.replace('m1', 'm2'), `${token}x`, token.slice(0, -1), '', '…'])
      expect(() => workspace.container.mailStops.stop(forged)).toThrow(
        expect.objectContaining({ code: 'link-broken' })
      );
  });

  it('of somebody outside stops all mail; the journal says so', async () => {
    const { container } = workspace;
    ruleOn(
      workspace,
      ruleOf([onTheDay], {
        ...{ reach: 'any time', body: '‹task›', to: [{ who: 'address', address: 'quay@supplier.example' }] }
      })
    );
    await remind();
    const [message] = await received(workspace);
    const token = tokenOf(await stopHeader(message!.id));
    container.mailStops.stop(token);
    expect(container.mailStops.view(token)).toMatchObject({ kinds: null, stopped: true, page: null });
    await remind('Ines', '2026-03-06');
    expect(await received(workspace)).toHaveLength(1);
    container.mailStops.goOn(token);
    await remind('Ines', '2026-03-09');
    expect(await received(workspace)).toHaveLength(2);
  });
});

describe('an answer to a message', () => {
  const answer = async (headers: Record<string, string>, text: string | Buffer, port: number) => {
    const line = createTransport({ host: '127.0.0.1', port, secure: false, ignoreTLS: true });
    const head = Object.entries(headers).map(([name, value]) => `${name}: ${value}`);
    await line.sendMail({
      envelope: { from: 'ines@test.example', to: ['bell@test.example'] },
      raw: Buffer.concat([Buffer.from(`${head.join('\r\n')}\r\n\r\n`), Buffer.from(text)])
    });
    line.close();
  };
  async function listening(work: (port: number, faults: unknown[]) => Promise<void>) {
    const faults: unknown[] = [];
    const { outbox } = workspace.container;
    const mailbox = new ReturnedMail(
      () => {},
      (answered) => outbox.answered(answered),
      (error) => faults.push(error)
    );
    const port = await mailbox.listen(0);
    try {
      await work(port, faults);
    } finally {
      await mailbox.close();
    }
  }
  const shown = () => {
    const { container, people } = workspace;
    const filter = { end: null, ruleId: null, personId: null, text: '', from: null, until: null };
    const viewer = { personId: people.Ines!, zone: zoneNamed('Europe/Lisbon') };
    return outboxPage(container, filter, null, viewer).rows[0]!.replies;
  };

  it('is shown at the notice, as text, once; an automatic one is named so', async () => {
    ruleOn(workspace, ruleOf([onTheDay], { reach: 'any time' }));
    await remind();
    const [first] = await received(workspace);
    await listening(async (port) => {
      const own = { From: 'Inês <ines@test.example>', 'In-Reply-To': first!.messageId };
      const written = {
        ...own,
        'Message-ID': '<1@test.example>',
        'Content-Type': 'text/html; charset=utf-8'
      };
      const html = '<p>Done on <b>Friday</b>.</p><script>alert(1)</script>';
      await answer(written, html, port);
      await answer(written, html, port);
      const away = { ...own, 'Message-ID': '<2@test.example>', 'Auto-Submitted': 'auto-replied' };
      await answer(away, 'I am away.\r\n\r\n> Renew it\r\n', port);
      await answer({ ...own, 'In-Reply-To': '<unknown@test.example>' }, 'About something else', port);
    });
    expect(shown()).toEqual([
      expect.objectContaining({ from: 'Inês', automatic: false, text: 'Done on Friday.' }),
      expect.objectContaining({ from: 'Inês', automatic: true, text: 'I am away.' })
    ]);
  });

  it('in an unknown charset is read as well as it can be; one of 20 MB is refused', async () => {
    ruleOn(workspace, ruleOf([onTheDay], { reach: 'any time' }));
    await remind();
    const [first] = await received(workspace);
    await listening(async (port, faults) => {
      const own = { From: 'ines@test.example', 'In-Reply-To': first!.messageId };
      const odd = {
        ...own,
        'Content-Type': 'text/plain; charset=x-none-such',
        'Message-ID': '<3@test.example>'
      };
      await answer(odd, Buffer.from([0x4f, 0x6b, 0xff, 0x0d, 0x0a]), port);
      await expect(answer(own, Buffer.alloc(20 * 2 ** 20, 'x'), port)).rejects.toMatchObject({
        responseCode: 552
      });
      expect(faults).toEqual([]);
    });
    expect(shown().map(({ text }) => text.slice(0, 2))).toEqual(['Ok']);
  });
});

describe('the short link of a text message', () => {
  it('leads, without signing in, to what can be done about it', async () => {
    const other = await openWorkspace('2026-03-05T07:00:00Z', { everyChannel: true });
    try {
      const { container, coordinator, people } = other;
      container.committer.commit(coordinator, 'phone', (writer) =>
        writer.update('person', people.Ines!, { phone: '+351910000000' })
      );
      ruleOn(other, ruleOf([onTheDay], { reach: 'any time', channels: ['text'] }));
      const { result: id } = container.tasks.add(
        coordinator,
        taskInput({ name: 'Renew it', ownerId: people.Ines!, dueDate: '2026-03-05' })
      );
      await container.engine.moveClock(Date.parse('2026-03-05T12:00Z'));
      const { messages } = await container.postRoom.list('', 0, 10, 'text');
      const [, token] = /http:\/\/early-bell\.test\/t\/(\S+)$/.exec((messages[0] as { text: string }).text)!;
      const view = container.textLinks.view(token!);
      expect(view).toMatchObject({
        reader: 'Ines',
        items: [{ subject: 'Renew it is due today', taskId: id }]
      });
      const done = view.items[0]!.acts.find(({ words }) => words === 'Done')!;
      container.actLinks.perform(done.path.slice('/act/'.length), '');
      expect(container.stores.tasks.byId(id)!.phase).toBe('finished');
      expect(container.textLinks.view(token!).items[0]!.acts.map(({ words }) => words)).not.toContain('Done');
      await container.engine.moveClock(Date.parse('2026-03-20T12:00Z'));
      expect(() => container.textLinks.view(token!)).toThrow(expect.objectContaining({ code: 'link-old' }));
    } finally {
      await other.close();
    }
  });

  it('is nobody’s who guesses', () => {
    const key = Buffer.alloc(32, 7);
    const token = textToken(key, 4_000_000);
    expect(token).toHaveLength('2dqf4-'.length + 11);
    expect(readTextToken(key, token)).toBe(4_000_000);
    for (const forged of [token.replace(/^./, '3'), `${token}a`, token.toUpperCase(), '1-', ''])
      expect(readTextToken(key, forged)).toBe(null);
  });
});
