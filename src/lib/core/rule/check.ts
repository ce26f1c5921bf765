import { CodedError } from '../errors.ts';
import { parseRecurrenceRule } from '../recurrence/rrule.ts';
import { checkAnchor } from '../anchor/anchors.ts';
import { RUNG_UNITS } from '../ladder/clock.ts';
import { checkLead, isDayLevel } from '../ring/lead.ts';
import { parseDay } from '../time/day.ts';
import { parseTimeOfDay } from '../time/time-of-day.ts';
import { parseFirstRun } from './first-run.ts';
import { zoneNamed } from '../time/zone.ts';
import { checkCondition } from './check-condition.ts';
import { checkSteps } from './check-steps.ts';
import type { Known } from './known.ts';
import type { Checker, RuleFault } from './rule-fault.ts';
import { MOST_STEPS, type RuleDefinition } from './model.ts';
import { allSteps } from './step-model.ts';
import { isRung, type Lead, type OffsetLead, type ScheduleLead } from './lead-model.ts';

/** Most repeats of a ring. */
const MOST_REPEATS = 1_000;

/**
 * Everything that keeps a rule from being turned on; empty when it can be.
 * @param known answers whether what the rule names is still there
 */
export function ruleFaults(name: string, definition: RuleDefinition, known: Known, ruleId = 0): RuleFault[] {
  const faults: RuleFault[] = [];
  const check: Checker = (part, test, step) => {
    try {
      test();
    } catch (error) {
      if (!(error instanceof CodedError)) throw error;
      // Leads that share a fault, a zone for one, say it once.
      const { code, message } = error;
      if (!faults.some((fault) => fault.part === part && fault.message === message && fault.step === step))
        faults.push({ part, code, message, ...(step === undefined ? {} : { step }) });
    }
  };
  const { watch, leads, steps, stop } = definition;
  check('name', () => need(name.trim() !== '', new CodedError('rule-no-name')));
  check('watch', () => gone((watch.projects ?? []).every(known.project), 'a project'));
  check('watch', () => checkCondition(watch.condition, known));
  check('watch', () => checkList(watch.list, known));
  check('ring', () =>
    need(
      leads.some(({ on }) => on),
      new CodedError('rule-no-lead')
    )
  );
  for (const lead of leads) check('ring', () => checkOneLead(lead, leads, known));
  check('ring', () => checkLadder(leads, known));
  check('tell', () => need(steps.length > 0, new CodedError('rule-no-steps')));
  const count = allSteps(steps).length;
  check('tell', () =>
    need(count <= MOST_STEPS, new CodedError('rule-too-many-steps', { count, most: MOST_STEPS }))
  );
  checkSteps(definition, known, ruleId, check);
  check('stop', () => checkCondition(stop.condition, known));
  check('stop', () => void (stop.until !== null && parseDay(stop.until)));
  check('ring', () => void (definition.firstRun !== null && parseFirstRun(definition.firstRun)));
  return faults;
}

function checkList(id: number | null, known: Known): void {
  if (id === null) return;
  const list = known.list(id);
  gone(list !== null, 'a saved list');
  if (typeof list === 'string') throw new CodedError('rule-list-unfit', { why: list });
}

function checkOneLead(lead: Lead, leads: readonly Lead[], known: Known): void {
  if (lead.zone.of === 'named') zoneNamed(lead.zone.zone);
  if (lead.only) gone(lead.only.groups.every(known.group), 'a group');
  if (lead.kind === 'offset') checkOffset(lead, leads, known);
  else if (lead.kind === 'schedule') {
    parseRecurrenceRule(lead.rrule);
    parseDay(lead.start);
    parseTimeOfDay(lead.time);
    checkOnce(lead, known);
  } else if (lead.kind === 'event' && typeof lead.field === 'number') {
    gone(known.field(lead.field) !== null, 'a field');
  }
}

function checkOnce({ onceFor, since }: ScheduleLead, known: Known): void {
  if (since !== undefined) parseDay(since);
  if (onceFor?.date !== 'own date') return;
  need(onceFor.field !== undefined, new CodedError('rule-own-date'));
  gone(known.field(onceFor.field!.id) !== null, 'a field');
}

function checkOffset(lead: OffsetLead, leads: readonly Lead[], known: Known): void {
  const { n, unit, closedDay, time, anchor, field, after, repeat } = lead;
  const minute = time === null ? null : parseTimeOfDay(time);
  checkLead({ n, unit, closedDay, minute });
  if (anchor === 'own date') {
    need(field !== undefined, new CodedError('rule-own-date'));
    gone(known.field(field!.id) !== null, 'a field');
  } else if (anchor === 'earlier ring') {
    need(
      leads.some(({ id }) => id === after && id !== lead.id),
      new CodedError('rule-earlier-ring')
    );
  }
  checkAnchor(anchor, n);
  if (!repeat) return;
  checkLead({ n: repeat.n, unit: repeat.unit, closedDay: 'as-is', minute: null });
  const sound = repeat.n >= 1 && repeat.most >= 1 && repeat.most <= MOST_REPEATS;
  need(sound, new CodedError('rule-repeat', { most: MOST_REPEATS }));
}

/** Rungs climb one after the other on one clock. */
function checkLadder(leads: readonly Lead[], known: Known): void {
  const rungs = leads.filter(isRung);
  rungs.forEach(({ n, unit, instead = [], repeat, time }, i) => {
    const minute = time === null ? null : parseTimeOfDay(time);
    for (const timing of [{ n, unit }, ...instead]) {
      need(RUNG_UNITS.includes(timing.unit), new CodedError('rule-rung-unit'));
      checkLead({ ...timing, closedDay: 'as-is', minute: isDayLevel(timing.unit) ? minute : null });
    }
    gone(
      instead.every(({ only }) => only.groups.every(known.group)),
      'a group'
    );
    need(!repeat || i === rungs.length - 1, new CodedError('rule-rung-repeat', { rung: i + 1 }));
    need(!repeat || RUNG_UNITS.includes(repeat.unit), new CodedError('rule-rung-unit'));
  });
}

/** @throws what is wrong, unless it is right */
export function need(condition: boolean, error: CodedError): void {
  if (!condition) throw error;
}

/** @throws CodedError `rule-names-gone` unless what is named is there */
export function gone(isThere: boolean, what: string): void {
  if (!isThere) throw new CodedError('rule-names-gone', { what });
}
