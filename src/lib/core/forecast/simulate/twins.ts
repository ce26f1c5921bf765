import { TASK_DATES } from '../../anchor/anchors.ts';
import type { Moment } from '../../time/instant.ts';
import type { RuleFacts } from '../facts/compile-rule.ts';
import type { Facts, TaskFacts } from '../facts/facts.ts';
import type { ForecastHistory } from './model.ts';
import type { Scope } from '../facts/scopes.ts';

const DATES: ReadonlySet<string | null> = new Set(TASK_DATES);
/** Rules that a signature can name, each by a bit of a whole number. */
const MOST_RULES = 50;

/** What a task before had that is alike: its notices, as places in the list, and how many of its rings have passed. */
export interface Twin {
  task: TaskFacts;
  /** The rules that watch it, a bit each. */
  signature: number;
  from: number;
  until: number;
  pastRings: number;
}

/**
 * Tasks of one owner and project with the same dates ring alike by rules that ask nothing else of them: of a hundred thousand tasks most
 * have such a twin, whose notices are copied instead of computed. Tasks come in the order of their due moments, so that only the twins
 * of one moment are remembered.
 */
export class Twins {
  readonly #alike: ReadonlySet<RuleFacts>;
  readonly #bits: ReadonlyMap<RuleFacts, number>;
  readonly #signatures = new Map<Scope, number>();
  readonly #untouched: (taskId: number) => boolean;
  readonly #possible: boolean;
  /** Of one due date, by owner. */
  readonly #known = new Map<number | null, Twin[]>();
  #dueDay = NaN;
  #dueMinute: number | null = null;

  constructor(facts: Facts, rules: readonly RuleFacts[], history: ForecastHistory) {
    this.#alike = new Set(rules.filter(ringsTwinsAlike));
    this.#bits = new Map(rules.map((rule, i) => [rule, 2 ** i]));
    this.#untouched = history.untouched ?? (() => !history.occupied);
    this.#possible = facts.hushes === null && rules.length <= MOST_RULES;
  }

  /** Which rules watch a task, where a twin would ring alike by them; NaN where it may ring like no other. */
  signatureOf(task: TaskFacts, scope: Scope): number {
    if (!this.#possible || task.private || task.otherOwnerIds.length > 0) return NaN;
    if (task.reminders.length > 0 || task.silences.length > 0) return NaN;
    if (task.acknowledged || task.phase === 'stuck on others') return NaN;
    let signature = this.#signatures.get(scope);
    if (signature === undefined) this.#signatures.set(scope, (signature = this.#signature(scope)));
    return this.#untouched(task.id) ? signature : NaN;
  }

  #signature({ rules }: Scope): number {
    let signature = 0;
    for (const rule of rules) {
      if (!this.#alike.has(rule)) return NaN;
      signature += this.#bits.get(rule)!;
    }
    return signature;
  }

  find(task: TaskFacts, signature: number): Twin | undefined {
    const { due } = task;
    const [day, minute] = [due?.day ?? NaN, due?.minute ?? null];
    if (day !== this.#dueDay || minute !== this.#dueMinute) {
      this.#known.clear();
      this.#dueDay = day;
      this.#dueMinute = minute;
    }
    return this.#known
      .get(task.ownerId)
      ?.find((twin) => twin.signature === signature && haveTheSameDates(task, twin.task));
  }

  /** Called after `find`, which looks at the due date. */
  remember(twin: Twin): void {
    const { ownerId } = twin.task;
    const known = this.#known.get(ownerId);
    if (known) known.push(twin);
    else this.#known.set(ownerId, [twin]);
  }
}

function haveTheSameDates(a: TaskFacts, b: TaskFacts): boolean {
  return (
    a.projectId === b.projectId &&
    a.register === b.register &&
    areSame(a.due, b.due) &&
    areSame(a.start, b.start) &&
    areSame(a.remindOn, b.remindOn)
  );
}

function areSame(a: Moment | null, b: Moment | null): boolean {
  if (a === null || b === null) return a === b;
  return a.day === b.day && a.minute === b.minute && a.zone === b.zone;
}

/** Whether a rule rings twins alike: it counts from dates of the task, asks no condition, and tells nobody of the task alone. */
function ringsTwinsAlike({ plain, ofTask, watch, stop, planned, program }: RuleFacts): boolean {
  return (
    plain &&
    !ofTask &&
    !watch.asks &&
    stop.condition === null &&
    planned.every(({ anchor, lead }) => lead.only === null && DATES.has(anchor)) &&
    program.leading.every(({ byOwner }) => byOwner)
  );
}
