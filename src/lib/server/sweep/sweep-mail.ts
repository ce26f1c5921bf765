import { many } from '../../core/many.ts';
import type { TellingKind } from '../../core/notice/kinds.ts';
import { isReachable, type PersonFacts } from '../../core/forecast/facts/facts.ts';
import { list } from '../../core/rule/words/list.ts';
import { sweepMessage, type SweepMessage, type SweepMessageRow } from '../../core/sweep/message.ts';
import { doneWords, waitWords } from '../../core/sweep/words.ts';
import { shortMoment } from '../../core/time/format.ts';
import { queueWritten } from '../engine/plain-message.ts';
import type { FactsSource } from '../engine/facts-source.ts';
import type { Stores } from '../store/all.ts';
import type { SweepRowShown, SweepRun } from '../store/sweep-runs.ts';
import { groupBy } from '../../core/group-by.ts';
import type { Parking } from '../task/parking.ts';
import { eachRow } from './sweep-rows.ts';

/** What is written to people about sweeps: lists to keepers, questions to owners. Inside the transaction under way. */
export class SweepMail {
  readonly #stores: Stores;
  readonly #source: FactsSource;
  readonly #parking: Parking;
  readonly #origin: string;

  constructor(stores: Stores, source: FactsSource, parking: Parking, origin: string) {
    this.#stores = stores;
    this.#source = source;
    this.#parking = parking;
    this.#origin = origin;
  }

  /** Whether somebody is there and can be told. */
  reaches(personId: number | null): boolean {
    return this.#reachable(personId) !== null;
  }

  /** The list of a planned run, to its keeper, with a link to the page on which tasks are left out. */
  preview(run: SweepRun, taken: number, now: number): void {
    const keeper = this.#reachable(run.keeperId);
    if (!keeper) return;
    const at = shortMoment(run.at, keeper.zone, keeper.zone.dayOf(now));
    const what = many(taken, 'task');
    const goesOn =
      run.reason === null
        ? `It runs ${at} unless you cancel it.`
        : `It runs only if you approve it: ${run.reason}.`;
    const rows = [...eachRow(this.#stores.sweepRuns, run.id, 'taken')].map((row) => this.#row(row, keeper));
    const said = [`${what} would be ${doneWords(run.definition.act)} ${at} by “${run.name}”.`, goesOn];
    const go = {
      link: `${this.#origin}/sweeps/runs/${run.id}`,
      words: 'Check the list'
    };
    this.#queue(run, keeper, 'question', sweepMessage(`${run.name}: ${taken} on ${at}`, said, rows, go), now);
  }

  /** What a run that only tells has to tell, once it has come to its end. */
  told(run: SweepRun, now: number): void {
    const { act } = run.definition;
    const done = eachRow(this.#stores.sweepRuns, run.id, 'done');
    if (act.act === 'report slips') this.#slips(run, [...done], now);
    else if (act.act === 'bring back') this.#back([...done], now);
    else if (act.act === 'still needed' || act.act === 'ask a date') {
      const byOwner = new Map<number, SweepRowShown[]>();
      for (const row of done) {
        if (row.ownerId === null) continue;
        const rows = byOwner.get(row.ownerId);
        if (rows) rows.push(row);
        else byOwner.set(row.ownerId, [row]);
      }
      for (const [ownerId, rows] of byOwner) {
        const owner = this.#reachable(ownerId);
        if (owner) this.#ask(run, owner, rows, now);
      }
    }
  }

  /** Whoever had what was parked come back to them. */
  #back(rows: readonly SweepRowShown[], now: number): void {
    const tasks = rows.flatMap(({ taskId }) => this.#stores.tasks.byId(taskId) ?? []);
    for (const [ownerId, theirs] of groupBy(tasks, ({ ownerId: id }) => id)) {
      const owner = this.#reachable(ownerId);
      if (owner) this.#parking.tell(owner, theirs, now);
    }
  }

  #ask(run: SweepRun, owner: PersonFacts, rows: readonly SweepRowShown[], now: number): void {
    const { act, wait } = run.definition;
    const listed = rows.map((row) => this.#row(row, owner));
    const [first = ''] = owner.name.split(' ');
    const one = rows.length === 1;
    if (act.act === 'still needed') {
      const days = waitWords({ n: act.answerDays, unit: 'workday' });
      const then = { park: 'parked', close: 'closed', keep: 'kept' }[act.otherwise];
      const said = [
        `Hello ${first},`,
        `Nobody has changed ${one ? 'this task' : `these ${many(rows.length, 'task')}`} of yours for ${waitWords(wait)} or longer. Still needed?`,
        `Keep, park or close ${one ? 'it' : 'each'}. Without an answer, it is ${then} after ${days}.`
      ];
      const go = { link: `${this.#origin}/sweeps/asked`, words: 'Answer' };
      const subject = one ? `Still needed? ${listed[0]!.name}` : `Still needed? ${rows.length} tasks`;
      return this.#queue(run, owner, 'question', sweepMessage(subject, said, listed, go), now);
    }
    const said = [
      `Hello ${first},`,
      `${one ? 'this task' : `these ${rows.length} tasks`} of yours ${one ? 'has' : 'have'} no due date, so no rule reminds anybody. When should ${one ? 'it' : 'each'} be done?`
    ];
    const go = { link: `${this.#origin}/tasks?due=none&owner=${owner.id}`, words: 'Give them dates' };
    const subject = one ? `When? ${listed[0]!.name}` : `When? ${rows.length} tasks without a date`;
    this.#queue(run, owner, 'question', sweepMessage(subject, said, listed, go), now);
  }

  #slips(run: SweepRun, rows: readonly SweepRowShown[], now: number): void {
    const keeper = this.#reachable(run.keeperId);
    if (!keeper || rows.length === 0) return;
    const { act } = run.definition;
    const least = act.act === 'report slips' ? act.atLeast : 0;
    const owners = list([...new Set(rows.map(({ ownerId }) => this.#nameOf(ownerId)))].slice(0, 8));
    const said = [
      `${many(rows.length, 'open task was', 'open tasks were')} postponed ${many(least, 'time')} or more. Owners: ${owners}.`
    ];
    const listed = rows.map((row) => ({ ...this.#row(row, keeper), note: this.#nameOf(row.ownerId) }));
    const go = { link: `${this.#origin}/sweeps/runs/${run.id}`, words: 'See all of them' };
    const subject = `${run.name}: ${many(rows.length, 'task')}`;
    this.#queue(run, keeper, 'digest of overdue', sweepMessage(subject, said, listed, go), now);
  }

  #row(
    { taskId, name, private: hidden, ownerId, projectId }: SweepRowShown,
    reader: PersonFacts
  ): SweepMessageRow {
    const isHidden = hidden === 1 && ownerId !== reader.id;
    const project = projectId === null ? '' : (this.#source.facts.projects.get(projectId)?.name ?? '');
    return {
      name: isHidden ? 'a private task' : (name ?? 'a removed task'),
      note: isHidden ? '' : project,
      link: `${this.#origin}/tasks/${taskId}`
    };
  }

  #nameOf(personId: number | null): string {
    return personId === null
      ? 'no owner'
      : (this.#source.facts.people.get(personId)?.name ?? 'a removed person');
  }

  #reachable(personId: number | null): PersonFacts | null {
    const person = personId === null ? undefined : this.#source.facts.people.get(personId);
    return person && isReachable(person) ? person : null;
  }

  #queue(run: SweepRun, reader: PersonFacts, kind: TellingKind, message: SweepMessage, now: number): void {
    const about = { of: 'sweep', key: [run.id, reader.id, now, message.subject] };
    queueWritten(this.#stores, { reader, kind, now }, about, message);
  }
}
