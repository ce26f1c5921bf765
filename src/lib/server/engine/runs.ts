import type { Told } from '../../core/forecast/facts/recipients.ts';
import { actOn } from '../../core/forecast/decide/act-on.ts';
import type { CompiledLead } from '../../core/forecast/facts/compile-lead.ts';
import { leadOf, type RuleFacts } from '../../core/forecast/facts/compile-rule.ts';
import type { TaskFacts } from '../../core/forecast/facts/facts.ts';
import {
  changeBetween,
  flatten,
  withoutOwn,
  type OwnChange
} from '../../core/forecast/decide/own-changes.ts';
import { MOST_CHANGES, MOST_REARMED } from '../../core/forecast/simulate/simulated-runs.ts';
import { CodedError } from '../../core/errors.ts';
import { advance, type Standing } from '../../core/rule/advance.ts';
import { ONCE_ONLY, type Act } from '../../core/rule/acts.ts';
import { conditionWords } from '../../core/rule/words/condition-words.ts';
import type { Do, Wait } from '../../core/rule/step-model.ts';
import { actWords } from '../../core/rule/words/act-words.ts';
import type { CompiledTell } from '../../core/rule/program.ts';
import { onceValue } from '../../core/forecast/decide/once-value.ts';
import { resolveAct, type Effect } from '../../core/rule/resolve-act.ts';
import { waitUntil } from '../../core/rule/wait-until.ts';
import { formatZoned } from '../../core/time/instant.ts';
import type { UnitOfWork } from '../db/unit-of-work.ts';
import type { Stores } from '../store/all.ts';
import type { RunRecord } from '../store/runs.ts';
import type { Chain } from './chain.ts';
import { ringKey } from './ring-key.ts';
import type { FactsSource } from './facts-source.ts';
import { recordNames } from './names.ts';
import type { Ringer } from './ringer.ts';
import type { RingNow, RunStarter, Started } from './run-starter.ts';
import { faultWords, type RuleFaults } from './rule-faults.ts';

/** What a rule's act is done for. */
export interface ActFor {
  ruleId: number;
  ruleName: string;
  runId: number;
  stepId: string;
  taskId: number;
  round: number;
  /** By which value of its date what is done once is known. */
  value: string;
  keeperId: number | null;
  actorId: number | null;
  title: string;
}

/** Who does to tasks what rules say. Each effect is one change of its own, in the transaction under way. */
export interface ActPerformer {
  /** @returns the task that was made, where one was */
  perform(effect: Exclude<Effect, { kind: 'ring' }>, act: Act, of: ActFor): { madeTaskId: number | null };
}

/** A run that goes through its steps now. */
interface UnderWay {
  run: RunRecord;
  rule: RuleFacts;
  lead: CompiledLead;
  /** As what the steps before have left. */
  task: TaskFacts;
  now: number;
  /** The date before the closed-day rule, or the owner’s today. */
  originDay: number;
}

/**
 * Runs of rules: what a ring does besides the Tells that are timed for each recipient. A run goes through its steps until one waits; where
 * it stands is in its row, so a run that is cut off goes on from there. Everything here runs inside a transaction under way.
 */
export class Runs implements RunStarter {
  readonly #stores: Stores;
  readonly #source: FactsSource;
  #ringer!: Ringer;
  #performer!: ActPerformer;
  #chain!: Chain;

  readonly #work: UnitOfWork;
  readonly #faults: RuleFaults;

  constructor(work: UnitOfWork, stores: Stores, source: FactsSource, faults: RuleFaults) {
    this.#work = work;
    this.#faults = faults;
    this.#stores = stores;
    this.#source = source;
  }

  attach(ringer: Ringer, performer: ActPerformer, chain: Chain): void {
    this.#ringer = ringer;
    this.#performer = performer;
    this.#chain = chain;
  }

  /** A ring's steps. What has run already does not run again. */
  start({ rule, lead, task, now }: RingNow, ringId: number, started: Started = {}): void {
    const { runs } = this.#stores;
    const { from = rule.facts.program.start, regardless = false } = started;
    const originDay = started.originDay ?? this.#source.planner.dates.ownerZone(task).dayOf(now);
    const run = { ...runs.begin(ringId, rule.facts.id, rule.versionId, now, started), regardless };
    if (this.#source.planner.isQuiet(rule.facts, task, now))
      return runs.end(run.id, 'stopped', 'hushed', now);
    if (this.#isRearmedTooOften(rule.facts, lead, task)) {
      runs.end(run.id, 'stopped', 'started itself again and again', now);
      const path = [`“${rule.facts.name}” moved the date it counts from ${MOST_REARMED} times`];
      return this.#chain.cut(rule.facts, task.id, path, now);
    }
    this.#chain.within(() => this.#go({ run, rule: rule.facts, lead, task, now, originDay }, from, false));
  }

  /**
   * Whoever has come to a ring since it rang is told of it by the Tells that every ring comes to, without a new run.
   * @returns whether anybody is
   */
  tellOthers({ rule, lead, task, now }: RingNow, ringId: number): boolean {
    const { planner } = this.#source;
    const run = this.#stores.runs.ofRing(ringId);
    if (!run || planner.isQuiet(rule.facts, task, now)) return false;
    const originDay = planner.dates.ownerZone(task).dayOf(now);
    const going = { run, rule: rule.facts, lead, task, now, originDay };
    const told = rule.facts.program.atOnce
      .filter(({ leads }) => leads === null || leads.has(run.leadId))
      .flatMap((tell) => this.#tellEach(going, tell));
    return told.length > 0;
  }

  /** A run that waited goes on, if it is still true. */
  goOn(run: RunRecord, now: number): void {
    const { runs, tasks } = this.#stores;
    const { planner } = this.#source;
    const rule = this.#source.ruleOfVersion(run.ruleId, run.versionId);
    const task = run.taskId === null ? null : tasks.factsOf(run.taskId);
    const lead = rule?.leads.find(({ lead: { id } }) => id === run.leadId);
    const stop = (outcome: string) => runs.end(run.id, 'stopped', outcome, now, run.own);
    if (!rule || !task || !lead) return stop('task gone');
    if (!this.#source.live(run.ruleId)) return stop('rule off');
    if (planner.isQuiet(rule, task, now)) return stop('hushed');
    if (!run.regardless && run.state !== 'asking') {
      const seen = withoutOwn(task, planner.facts.detailsOf(task.id), run.own);
      const details = run.own.length > 0 ? seen.details : null;
      if (!planner.watches(rule, seen.task, now, details)) return stop('no longer in the Watch');
      if (planner.stopped(rule, seen.task, now, details)) return stop('stopped');
    }
    const originDay = planner.dates.ownerZone(task).dayOf(now);
    this.#chain.within(() =>
      this.#go({ run, rule, lead, task, now, originDay }, run.step, run.state === 'asking')
    );
  }

  #go(begun: UnderWay, from: number, answered: boolean): void {
    const { runs, tasks } = this.#stores;
    const { planner } = this.#source;
    const { run, rule, now } = begun;
    const own: OwnChange[] = [...run.own];
    let going = begun;
    let state: 'running' | 'asking' = 'running';
    let regardless = run.regardless;
    let isAnswer = answered;
    const standing = this.#steps(going, own, () =>
      advance(rule.program, from, {
        leadId: run.leadId,
        tell: (tell) => this.#work.run(() => this.#tell(going, tell)),
        act: (step) => {
          if (step.ask && !isAnswer) {
            const until = this.#ask(going, step);
            if (until !== null) {
              state = 'asking';
              return until;
            }
          }
          const agreed = !step.ask || this.#isAgreed(run, step, now);
          isAnswer = false;
          if (agreed) this.#act(going, step, own);
          going = { ...going, task: tasks.factsOf(going.task.id) ?? going.task };
          return null;
        },
        wait: (step) => {
          regardless = step.regardless;
          return this.#wait(going, step);
        },
        holds: (condition) =>
          condition === null || condition.holds(planner.subject(going.task, now, rule.id)),
        took: (step, side) =>
          runs.note(run.id, {
            ...{ stepId: step.id, kind: 'branch', name: step.name, at: now },
            input: {
              sides: step.sides.map(
                ({ name, condition }) => `${name}: ${conditionWords(condition, recordNames(this.#stores))}`
              )
            },
            output: { took: side ?? 'otherwise' }
          })
      })
    );
    if (!standing) return;
    if (standing.until === null) runs.end(run.id, 'ended', null, now, own);
    else
      runs.stand(run.id, {
        step: standing.at,
        nextAt: Math.max(standing.until, now),
        state,
        regardless,
        own
      });
  }

  /** A step that cannot be computed ends the run there: what was told and done before it stands, as with any other end. */
  #steps(
    { run, rule, task, now }: UnderWay,
    own: readonly OwnChange[],
    advanced: () => Standing
  ): Standing | null {
    try {
      return advanced();
    } catch (error) {
      if (!(error instanceof CodedError)) throw error;
      this.#faults.note(rule.id, task.id, 'ringing', error, now);
      this.#stores.runs.end(run.id, 'stopped', faultWords(error), now, own);
      return null;
    }
  }

  #tell(going: UnderWay, tell: CompiledTell): void {
    const told = this.#tellEach(going, tell);
    const { id, name } = tell.step;
    this.#stores.runs.note(going.run.id, {
      ...{ stepId: id, kind: 'tell', name, at: going.now },
      input: { 'recipients named': tell.step.to.length },
      output: { told: told.map(({ person, as }) => (as === 'to' ? person.name : `${person.name} (copy)`)) }
    });
  }

  /** Tells each of whom a Tell tells and has not told yet of this ring. @returns them */
  #tellEach(going: UnderWay, tell: CompiledTell): readonly Told[] {
    const { run, rule, lead, task } = going;
    const key = ringKey(rule, lead, task, run.anchorValue, run.ordinal);
    const told = this.#source.planner.audience
      .told(rule, tell, task, run.leadId, run.actorId)
      .filter(
        ({ person }) =>
          !this.#stores.notices.occupied({ ...key, recipientId: person.id, stepId: tell.step.id })
      );
    for (const one of told) this.#tellOne(going, tell, one);
    return told;
  }

  #tellOne(
    { run, rule, lead, task, now, originDay }: UnderWay,
    tell: CompiledTell,
    { person: recipient, as: copied, named }: Told
  ): void {
    const { ringId, ordinal, anchorValue } = run;
    this.#ringer.tell({
      ...{ ringId, rule, lead, tell, task, recipient, ordinal, anchorValue },
      ...{ ringAt: now, now, originDay, copied, named }
    });
  }

  /** @returns until when an answer is waited for; null when there is nobody to ask */
  #ask(going: UnderWay, step: Do): number | null {
    const { run, rule, task, now } = going;
    const { planner } = this.#source;
    const person = planner.asked(task, run.actorId);
    const zone = planner.dates.ownerZone(task);
    const { question, workingDays, otherwise } = step.ask!;
    const answerBy = waitUntil({ n: workingDays, unit: 'workday', time: null, closedDay: 'later' }, now, {
      zone,
      calendar: planner.dates.calendarOf(task),
      endOfDay: planner.facts.workspace.endOfDay
    });
    this.#stores.questions.ask({
      ...{ runId: run.id, stepId: step.id, taskId: task.id, personId: person?.id ?? null },
      ...{ text: question, askedAt: now, answerBy, otherwise }
    });
    const tell = rule.program.tells.get(step.id)!;
    if (person)
      this.#tellOne({ ...going, originDay: zone.dayOf(now) }, tell, { person, as: 'to', named: [] });
    const output = { asked: person?.name ?? 'nobody', until: formatZoned(answerBy, zone) };
    this.#note(run, step, now, { question }, output);
    return answerBy;
  }

  /** What was answered; after the last moment what stands without an answer. */
  #isAgreed(run: RunRecord, step: Do, now: number): boolean {
    const { questions } = this.#stores;
    const question = questions.ofRun(run.id, step.id);
    if (!question) return true;
    if (question.answer === null) {
      questions.answer(question.id, question.otherwise, now, null);
      this.#chain.unanswered(question.taskId, question.id, run, now);
    }
    const answer = question.answer ?? question.otherwise;
    this.#note(run, step, now, { question: question.text }, { answer, by: question.answeredBy ?? 'nobody' });
    return answer === 'yes';
  }

  /**
   * Each act in its order, each on what the one before has left.
   * @param own what was changed of the task itself is added to it
   */
  #act(going: UnderWay, step: Do, own: OwnChange[]): void {
    const { run, rule, now } = going;
    const { planner, facts } = this.#source;
    const names = recordNames(this.#stores);
    const done: string[] = [];
    for (const act of step.acts) {
      const task = this.#stores.tasks.factsOf(going.task.id);
      if (!task) break;
      if (this.#chain.changes >= MOST_CHANGES) {
        this.#chain.cut(rule, task.id, [`${MOST_CHANGES} changes in one go`], now);
        break;
      }
      const before = this.#doneBefore({ ...going, task }, step, act);
      if (before) {
        done.push(`${actWords(act, names)}: ${before}`);
        continue;
      }
      const stood = flatten(task, facts.detailsOf(task.id));
      const effect = resolveAct(act, actOn(planner, rule, task, now, run.actorId));
      if (!effect) {
        done.push(`${actWords(act, names)}: nobody to set`);
        continue;
      }
      this.#work.run(() => this.#perform({ ...going, task }, step, act, effect));
      done.push(actWords(act, names));
      const after = this.#stores.tasks.factsOf(task.id);
      const change = after && changeBetween(stood, flatten(after, facts.detailsOf(task.id)));
      if (change) own.push(change);
    }
    this.#note(run, step, now, { acts: step.acts.length }, { done });
  }

  /** Why what leaves something behind is not done again; null where it is done. */
  #doneBefore({ run, rule, task }: UnderWay, step: Do, { act }: Act): string | null {
    const { runs } = this.#stores;
    if (act === 'follow-up' && runs.openFollowUps(rule.id, task.id).length > 0)
      return 'it already has an open follow-up of this rule';
    if (!ONCE_ONLY.includes(act)) return null;
    const value = onceValue(leadOf(rule, task, run.leadId), run.anchorValue, task);
    return runs.once(rule.id, `${step.id}/${act}`, task.id, task.round, value)
      ? 'already done for this date'
      : null;
  }

  #perform({ run, rule, task, now }: UnderWay, step: Do, act: Act, effect: Effect): void {
    if (effect.kind === 'ring') return this.#chain.ringAnother(effect.ruleId, task.id, run, now);
    this.#chain.changes++;
    this.#chain.by(rule, () =>
      this.#performer.perform(effect, act, {
        ...{
          ruleId: rule.id,
          ruleName: rule.name,
          runId: run.id,
          stepId: step.id,
          taskId: task.id,
          round: task.round,
          value: onceValue(leadOf(rule, task, run.leadId), run.anchorValue, task)
        },
        ...{
          keeperId: rule.keeperId,
          actorId: run.actorId,
          // What many are changed by is read task by task; nobody reads the name of another's private one.
          title: `Rule “${rule.name}” ${actWords(act, recordNames(this.#stores))}: ${task.private ? 'a private task' : `“${task.name}”`}`
        }
      })
    );
  }

  #wait({ run, lead, task, now }: UnderWay, step: Wait): number {
    const { planner } = this.#source;
    const zone = planner.actZone(lead, task);
    const until = waitUntil(step, now, {
      zone,
      calendar: planner.dates.calendarOf(task),
      endOfDay: planner.facts.workspace.endOfDay
    });
    this.#stores.runs.note(run.id, {
      ...{ stepId: step.id, kind: 'wait', name: step.name, at: now },
      input: { n: step.n, unit: step.unit, time: step.time },
      output: { until: formatZoned(until, zone) }
    });
    return until;
  }

  #note(
    run: RunRecord,
    step: Do,
    at: number,
    input: Record<string, unknown>,
    output: Record<string, unknown>
  ): void {
    this.#stores.runs.note(run.id, { stepId: step.id, kind: 'do', name: step.name, at, input, output });
  }

  /** A rule that moves the date it counts from rings itself again: three times for a task in its round, then no more. */
  #isRearmedTooOften(rule: RuleFacts, lead: CompiledLead, task: TaskFacts): boolean {
    if (!rule.program.acts || (lead.anchor !== 'due' && lead.anchor !== 'start')) return false;
    return this.#stores.runs.moved(rule.id, task.id, task.round, lead.anchor) >= MOST_REARMED;
  }
}
