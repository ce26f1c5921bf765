import { describe, expect, it } from 'vitest';
import { seedDemo } from '../../demo/seed.ts';
import { GATHERS, allSteps } from '../../src/lib/core/rule/model.ts';
import { createContainer } from '../../src/lib/server/container.ts';
import { startMailStandIn } from '../../standin/mail.ts';
import { StillClock } from '../support/workspace.ts';

/** What the demo promises to show around its moment, and that it is the same at every start. */
const MOMENT = Date.parse('2026-03-05T07:40:00Z');
const DAY = 86_400_000;

async function seeded() {
  const standIn = await startMailStandIn({ smtpPort: 0, httpPort: 0 });
  const container = createContainer({
    dataDir: ':memory:',
    demo: true,
    startAtMs: MOMENT,
    mail: { host: '127.0.0.1', port: standIn.smtpPort },
    postRoomUrl: `http://127.0.0.1:${standIn.httpPort}`,
    origin: 'http://early-bell.test',
    machine: new StillClock(),
    chance: () => 0.5,
    logLevel: 'silent'
  });
  await seedDemo(container, MOMENT);
  const { messages } = await container.postRoom.list('', 0, 1_000);
  return {
    container,
    messages,
    async close() {
      await container.stop();
      await standIn.close();
    }
  };
}

describe('the demo', () => {
  it('has people, places, work and a past, and something to show for the day and the week', async () => {
    const { container, messages, close } = await seeded();
    const { stores, forecasts, source } = container;
    const people = stores.people.all();
    expect([people.length, new Set(people.map(({ zone }) => zone)).size]).toEqual([14, 5]);
    expect(stores.projects.all()).toHaveLength(6);
    const definitions = stores.rules
      .made()
      .map(({ liveVersion }) => stores.rules.version(liveVersion!)!.definition);
    const steps = definitions.flatMap((definition) => allSteps(definition.steps));
    const tells = steps.filter((step) => step.kind === 'tell');
    expect(definitions).toHaveLength(14);
    expect(new Set(definitions.flatMap(({ leads }) => leads.map(({ kind }) => kind))).size).toBe(4);
    expect(new Set(steps.map(({ kind }) => kind)).size).toBe(4);
    expect(new Set(tells.map(({ gather }) => gather))).toEqual(new Set(GATHERS));
    expect(stores.runs.waiting().length).toBeGreaterThan(0);
    expect(Math.abs(stores.tasks.count() - 240)).toBeLessThanOrEqual(10);
    expect(messages.length).toBeGreaterThan(100);
    expect(Math.min(...messages.map(({ date }) => date!))).toBeLessThan(MOMENT - 21 * DAY);

    const day = forecasts.notices(MOMENT, MOMENT + DAY).filter(({ unrung }) => unrung === null);
    const zones = new Set(day.map(({ recipientId }) => source.facts.people.get(recipientId)!.zone.name));
    expect(day.length).toBeGreaterThanOrEqual(12);
    expect(zones.size).toBe(5);
    expect(day.filter(({ leavesAt, ringAt }) => leavesAt !== ringAt).length).toBeGreaterThanOrEqual(3);
    expect(day.filter(({ lateBell }) => lateBell)).toHaveLength(1);

    // Halifax puts its clocks forward on 8 March: its 09:00 is at 13:00 UTC before and at 12:00 UTC after.
    const hours = forecasts
      .notices(MOMENT, MOMENT + 7 * DAY)
      .filter(({ recipientId }) => source.facts.people.get(recipientId)!.zone.name === 'America/Halifax')
      .map(({ ringAt }) => new Date(ringAt).toISOString().slice(11, 16));
    expect(hours).toContain('13:00');
    expect(hours).toContain('12:00');
    await close();
  });

  it('is the same to the letter at every start', async () => {
    const written = async () => {
      const { messages, close } = await seeded();
      await close();
      return messages.map(({ messageId, subject, date, to }) => ({ messageId, subject, date, to }));
    };
    expect(await written()).toEqual(await written());
  });
});
