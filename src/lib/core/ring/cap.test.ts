import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { zoneNamed } from '../time/zone.ts';
import { momentOfInstant } from './moment-of-instant.ts';
import { capAndFold, type DayLimits, type Outgoing } from './cap.ts';

const LISBON = zoneNamed('Europe/Lisbon');
const at = (text: string) => Date.parse(`2026-03-${text}Z`);
const notice = (id: number, time: string, patch: Partial<Outgoing> = {}): Outgoing => ({
  id,
  at: at(time),
  held: false,
  fold: false,
  exempt: false,
  overdue: false,
  urgency: 0,
  dueAt: at('09T00:00'),
  rulePosition: 1,
  taskId: id,
  ...patch
});
const limits = (patch: Partial<DayLimits> = {}): DayLimits => ({
  zone: LISBON,
  cap: 2,
  nextDigest: () => null,
  nextOpening: () => at('06T09:00'),
  ...patch
});
const short = (notices: Outgoing[], rules: DayLimits) =>
  capAndFold(notices, rules).map(
    ({ at: when, how, ids }) => `${new Date(when).toISOString().slice(8, 16)} ${how} ${ids.join('+')}`
  );

describe('cap and fold', () => {
  it('puts what lies above the cap into one message at the next opening, or into the next digest', () => {
    const five = ['05T09:00', '05T10:00', '05T11:00', '05T12:00'].map((time, i) => notice(i + 1, time));
    expect(short(five, limits())).toEqual(['05T09:00 alone 1', '05T10:00 alone 2', '06T09:00 gathered 3+4']);
    const digest = limits({ nextDigest: () => at('05T19:00') });
    expect(short(five, digest)).toEqual(['05T09:00 alone 1', '05T10:00 alone 2', '05T19:00 digest 3+4']);
    expect(short(five, limits({ cap: null }))).toHaveLength(4);
    expect(short(five, limits({ sentOn: new Map([[LISBON.dayOf(at('05T08:00')), 2]]) }))).toEqual([
      '06T09:00 gathered 1+2+3+4'
    ]);
  });

  it('of one minute takes the urgent first, then the sooner due, then the rule, then the task', () => {
    const minute = [
      notice(1, '05T09:00', { rulePosition: 2 }),
      notice(2, '05T09:00', { dueAt: at('07T00:00') }),
      notice(3, '05T09:00', { urgency: 1 }),
      notice(4, '05T09:00')
    ];
    expect(short(minute, limits())).toEqual([
      '05T09:00 alone 3',
      '05T09:00 alone 2',
      '06T09:00 gathered 4+1'
    ]);
  });

  it('gathers three held notices that open together, and not two', () => {
    const held = [1, 2, 3].map((id) => notice(id, '05T09:00', { held: true }));
    expect(short(held, limits())).toEqual(['05T09:00 gathered 1+2+3']);
    expect(short(held.slice(1), limits())).toEqual(['05T09:00 alone 2', '05T09:00 alone 3']);
  });

  it('folds what its Tell says, but nothing that is exempt', () => {
    const digest = limits({ nextDigest: () => at('05T19:00') });
    const folding = [
      notice(1, '05T09:00', { fold: true }),
      notice(2, '05T09:00', { fold: true, exempt: true })
    ];
    expect(short(folding, digest)).toEqual(['05T09:00 alone 2', '05T19:00 digest 1']);
    const exempt = [1, 2, 3, 4].map((id) => notice(id, '05T09:00', { exempt: true, held: true }));
    expect(short(exempt, limits({ cap: 1 }))).toHaveLength(4);
  });

  it('counts over the local date', () => {
    const rules = limits({ zone: zoneNamed('Australia/Hobart'), cap: 1, nextOpening: () => at('07T00:00') });
    // 12:00 and 14:00 UTC are the 5th and the 6th in Hobart.
    expect(short([notice(1, '05T12:00'), notice(2, '05T14:00')], rules)).toEqual([
      '05T12:00 alone 1',
      '05T14:00 alone 2'
    ]);
  });

  it('loses nobody and sends nobody twice', () => {
    const anyNotice = fc.record({
      hour: fc.integer({ min: 0, max: 47 }),
      held: fc.boolean(),
      fold: fc.boolean(),
      exempt: fc.boolean(),
      urgency: fc.integer({ min: 0, max: 2 })
    });
    fc.assert(
      fc.property(
        fc.array(anyNotice, { maxLength: 20 }),
        fc.option(fc.integer({ min: 0, max: 4 })),
        (drawn, cap) => {
          const notices = drawn.map(({ hour, ...rest }, i) =>
            notice(i, '05T00:00', { ...rest, at: at('05T00:00') + hour * 3_600_000 })
          );
          const messages = capAndFold(notices, limits({ cap, nextOpening: (after) => after + 3_600_000 }));
          const ids = messages.flatMap((message) => message.ids).sort((a, b) => a - b);
          expect(ids).toEqual(notices.map(({ id }) => id));
          for (const message of messages)
            for (const id of message.ids) expect(message.at).toBeGreaterThanOrEqual(notices[id]!.at);
        }
      )
    );
  });
});

describe('anchors', () => {
  it('that are bare instants are read in the ring’s zone, at the whole minute', () => {
    const moment = momentOfInstant(Date.parse('2026-03-05T23:59:30Z'), zoneNamed('Asia/Kolkata'));
    expect(moment).toMatchObject({ minute: 5 * 60 + 30 });
  });
});
