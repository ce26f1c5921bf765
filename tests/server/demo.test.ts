import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { lintRules } from '../../demo/lint-rules.ts';
import { seedDemo } from '../../demo/seed.ts';
import { applyMend } from '../../src/lib/core/lint/apply-mend.ts';
import { LINT_CODES } from '../../src/lib/core/lint/model.ts';
import { GATHERS, allSteps } from '../../src/lib/core/rule/step-model.ts';
import { zoneNamed } from '../../src/lib/core/time/zone.ts';
import { createContainer } from '../../src/lib/server/container.ts';
import { ruleBasis } from '../../src/lib/server/rule/rule-basis.ts';
import { openBasis, type RuleBasis } from '../../src/lib/view/rule-basis.ts';
import type { RuleInput } from '../../src/lib/server/rule/rules.ts';
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
    postRoom: { mail: `http://127.0.0.1:${standIn.httpPort}` },
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

/** Looked at by every test, and changed by none. */
let demo: Awaited<ReturnType<typeof seeded>>;
beforeAll(async () => {
  demo = await seeded();
  demo.container.clock.set(demo.container.clock.now(), false);
}, 120_000);
afterAll(() => demo.close());

describe('the demo', () => {
  it('has people, places, work and a past, and something to show for the day and the week', () => {
    const { container, messages } = demo;
    const { stores, forecasts, source } = container;
    const people = stores.people.all();
    expect([people.length, new Set(people.map(({ zone }) => zone)).size]).toEqual([14, 5]);
    expect(stores.projects.all()).toHaveLength(6);
    const definitions = stores.rules
      .made()
      .filter(({ state }) => state === 'on')
      .map(({ liveVersion }) => stores.rules.version(liveVersion!)!.definition);
    const steps = definitions.flatMap((definition) => allSteps(definition.steps));
    const tells = steps.filter((step) => step.kind === 'tell');
    expect(definitions).toHaveLength(17);
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
  });

  it('shows each doubt of the editor in one draft, and not in the mended one; what mends it by one press does', () => {
    const { container } = demo;
    const { outlooks, stores, rules } = container;
    const viewer = { zone: zoneNamed('Europe/Lisbon'), personId: null };
    const statuses = stores.projects.statuses().map(({ id }) => id);
    const lints = (input: RuleInput) =>
      outlooks
        .ofRule(0, input, viewer)
        .lints.filter(({ code }) => code !== 'rush' || input.name.includes('one by one'));
    const pairs = lintRules(statuses);
    expect(pairs.map(({ lint }) => lint)).toEqual(LINT_CODES);
    for (const { lint, shows, mended } of pairs) {
      const found = lints(shows).find(({ code }) => code === lint);
      expect(found, `${lint}: ${shows.name}`).toBeDefined();
      expect(
        lints(mended).map(({ code }) => code),
        mended.name
      ).not.toContain(lint);
      if (!found?.mend) continue;
      const definition = applyMend(shows.definition, found.mend, () => 'new');
      // What cannot be mended any more, a late bell whose minute before is gone, is still said, without a button.
      const still = lints({ ...shows, definition }).find(({ code }) => code === lint);
      expect(still?.mend ?? null, found.mend.words).toBeNull();
      expect(still?.message).not.toBe(found.message);
      expect(rules.faults({ ...shows, definition })).toEqual([]);
    }
  });

  it('gives the browser everything to compute each rule’s outlook as the server does', () => {
    const { container } = demo;
    const { outlooks, rules, stores } = container;
    const viewer = { zone: zoneNamed('Europe/Lisbon'), personId: 1 };
    for (const { id, name } of stores.rules.made()) {
      const { rule, edited } = rules.open(id)!;
      const input = { name: rule.name, description: '', definition: edited.definition };
      // What is sent is JSON: nothing of it may be lost on the way.
      const basis = JSON.parse(JSON.stringify(ruleBasis(container, id, viewer))) as RuleBasis;
      const inBrowser = openBasis(basis)(input, 0);
      expect(inBrowser, name).toEqual(outlooks.ofRule(id, input, viewer));
    }
  });

  it('is the same to the letter at every start', async () => {
    // Several deliveries are under way at once: which of one moment arrives first is chance.
    const written = ({ messages }: typeof demo) =>
      messages
        .map(({ messageId, subject, date, to }) => ({ messageId, subject, date, to }))
        .sort((a, b) => a.date! - b.date! || a.messageId.localeCompare(b.messageId));
    const another = await seeded();
    expect(written(another)).toEqual(written(demo));
    await another.close();
  });
});
