import { createHash } from 'node:crypto';
import { stepInShort } from '../../core/rule/words/step-words.ts';
import { leadWords } from '../../core/rule/words/lead-words.ts';
import type { RuleFacts } from '../../core/forecast/facts/compile-rule.ts';
import type { TaskFacts } from '../../core/forecast/facts/facts.ts';
import { forecast } from '../../core/forecast/forecast.ts';
import type { Forecast, ForecastHistory } from '../../core/forecast/simulate/model.ts';
import type { ComposedMessage } from '../../core/message/compose.ts';
import { Planner } from '../../core/forecast/plan/planner.ts';
import { asCopy } from '../../core/message/copy.ts';
import { whyText } from '../../core/ring/why-text.ts';
import type { RuleDefinition } from '../../core/rule/model.ts';
import { allSteps } from '../../core/rule/step-model.ts';
import { inScope } from '../../core/rule/watch.ts';
import { CodedError } from '../../core/errors.ts';
import { MS_PER_DAY } from '../../core/time/day.ts';
import type { InstantMs } from '../../core/time/zone.ts';
import { bellView, nameFor } from '../../view/bell-view.ts';
import { twoTimes } from '../../view/bells.ts';
import type { TrialEntry, TrialView, WordsView } from '../../view/rule-trials.ts';
import type { WorkspaceClock } from '../engine/clock.ts';
import type { FactsSource } from '../engine/facts-source.ts';
import { recordNames } from '../engine/names.ts';
import type { Words } from '../engine/words.ts';
import type { Stores } from '../store/all.ts';
import { foretold, saidOf } from '../tower/foretold.ts';
import { reasonsAgainst, rings } from './rule-reasons.ts';
import type { RuleInput } from './rules.ts';
import type { RuleOutlooks } from './rule-outlook.ts';
import { readingOf } from '../workspace/reading.ts';
import type { Viewer } from '../workspace/viewer.ts';

/** Days ahead that a trial looks for rings of its task. */
const TRIAL_DAYS = 90;
/** Tasks that are offered for a trial. */
const MOST_TO_TRY = 300;

/** A rule tried on one task: what would come, in its words, as it would be received. Nothing here changes anything. */
export class RuleTrials {
  readonly #stores: Stores;
  readonly #source: FactsSource;
  readonly #clock: WorkspaceClock;
  readonly #words: Words;
  readonly #outlooks: RuleOutlooks;

  constructor(
    stores: Stores,
    source: FactsSource,
    clock: WorkspaceClock,
    words: Words,
    outlooks: RuleOutlooks
  ) {
    this.#stores = stores;
    this.#source = source;
    this.#clock = clock;
    this.#words = words;
    this.#outlooks = outlooks;
  }

  /**
   * Tries it on one task: what rings by itself in the next 90 days, and, for ring times that wait for something, what would come if it
   * happened now; each message as it would be received.
   * @throws CodedError `task-gone`
   */
  tryOn(ruleId: number, input: RuleInput, taskId: number, viewer: Viewer): TrialView {
    const task = this.#stores.tasks.factsOf(taskId);
    if (!task || (task.private && task.ownerId !== viewer.personId)) throw new CodedError('task-gone');
    const { rule, definition } = this.#outlooks.compile(ruleId, input);
    const now = this.#clock.now();
    const { names } = readingOf(this.#stores, this.#clock, viewer);
    const planner = this.#source.planner;
    const entries = (history: Partial<ForecastHistory>, leads: readonly string[]) =>
      this.#entries(rule, definition, task, history, leads, viewer);
    const planned = rule.planned.map(({ lead }) => lead.id);
    const waiting = rule.leads.filter(({ anchor }) => anchor === null);
    const coming = planned.length > 0 ? entries({}, planned) : [];
    const notes = coming.length > 0 ? [] : rings(planner, rule, task, now, viewer.zone.dayOf(now), names);
    const byItself = { asIf: null, entries: coming, notes };
    return {
      taskId,
      task: nameFor(task, viewer),
      against: reasonsAgainst(planner, rule, task, now, names),
      parts: [
        ...(planned.length > 0 ? [byItself] : []),
        ...waiting.map(({ lead }) => ({
          asIf: leadWords(lead, names),
          entries: entries({ runs: [runNow(rule, lead.id, task, now, viewer.personId)] }, [lead.id]),
          notes: []
        }))
      ]
    };
  }

  /**
   * One message of a trial, to be sent to whoever tries: what they have read, with a note above it of whom it is for and when.
   * @param key of the message in the trial that they have read
   * @throws CodedError `task-gone`, or `trial-changed` where the rule says something else by now
   */
  copyOf(ruleId: number, input: RuleInput, taskId: number, key: string, viewer: Viewer): ComposedMessage {
    const trial = this.tryOn(ruleId, input, taskId, viewer);
    const entries = trial.parts.flatMap((part) => part.entries.map((entry) => ({ entry, asIf: part.asIf })));
    const found = entries.find(({ entry }) => entry.message?.key === key);
    if (!found) throw new CodedError('trial-changed');
    const { entry, asIf } = found;
    const { files, ...message } = entry.message!;
    const when = asIf ? `if now: ${asIf}` : `on ${entry.at.there}, ${entry.at.place}`;
    const note = [
      `Only you get this. You tried the rule “${input.name || 'without a name'}” on the task “${trial.task}”.`,
      `From the rule itself it goes to ${entry.words}, ${when}.`,
      'Buttons like “Done” do nothing in this copy.',
      ...(files.length > 0 ? [`Left out here: ${files.join(', ')}.`] : [])
    ];
    return asCopy(message, 'Tried', note.join(' '));
  }

  /**
   * The words of each Tell as they would be read about one task: of the next message that comes by itself, else as if it rang now.
   * @param taskId the task, or null for the first that it watches
   */
  words(ruleId: number, input: RuleInput, taskId: number | null, viewer: Viewer): Record<string, WordsView> {
    const { rule, definition } = this.#outlooks.compile(ruleId, input);
    const task = this.#taskToRead(rule, taskId, viewer);
    if (!task) return {};
    const lead = rule.leads[0]?.lead.id;
    const planned = rule.planned.map((one) => one.lead.id);
    const coming = planned.length > 0 ? this.#entries(rule, definition, task, {}, planned, viewer) : [];
    const tells = allSteps(definition.steps).filter(({ kind }) => kind === 'tell');
    const found = (entries: readonly TrialEntry[], stepId: string) =>
      entries.find((entry) => entry.message !== null && entry.stepId === stepId);
    let asIf: TrialEntry[] | null = null;
    const views: Record<string, WordsView> = {};
    for (const { id } of tells) {
      let entry = found(coming, id);
      const byItself = entry !== undefined;
      if (!entry && lead !== undefined) {
        const runs = [runNow(rule, lead, task, this.#clock.now(), viewer.personId)];
        asIf ??= this.#entries(rule, definition, task, { runs }, [lead], viewer);
        entry = found(asIf, id);
      }
      if (!entry) continue;
      const { at, words, message } = entry;
      views[id] = {
        ...{ taskId: task.id, task: nameFor(task, viewer), reader: words, at, asIf: !byItself },
        ...{ subject: message!.subject, text: message!.text }
      };
    }
    return views;
  }

  #taskToRead(rule: RuleFacts, taskId: number | null, viewer: Viewer): TaskFacts | null {
    const readable = (task: TaskFacts) => !task.private || task.ownerId === viewer.personId;
    if (taskId !== null) {
      const task = this.#stores.tasks.factsOf(taskId);
      return task && readable(task) ? task : null;
    }
    const tasks = this.#source.whole.tasks();
    let first: TaskFacts | null = null;
    for (const task of tasks) {
      if (!readable(task)) continue;
      if (inScope(rule.watch, task)) return task;
      first ??= task;
    }
    return first;
  }

  /** Tasks that it may be tried on: those that it watches first, then others; private ones of others left out. */
  tasksToTry(ruleId: number, input: RuleInput, viewer: Viewer): { id: number; name: string }[] {
    const { rule } = this.#outlooks.compile(ruleId, input);
    const inside: TaskFacts[] = [];
    const outside: TaskFacts[] = [];
    for (const task of this.#source.whole.tasks()) {
      if (task.private && task.ownerId !== viewer.personId) continue;
      if (inside.length === MOST_TO_TRY) break;
      if (inScope(rule.watch, task)) inside.push(task);
      else if (outside.length < MOST_TO_TRY) outside.push(task);
    }
    return [...inside, ...outside].slice(0, MOST_TO_TRY).map(({ id, name }) => ({ id, name }));
  }

  #entries(
    rule: RuleFacts,
    definition: RuleDefinition,
    task: TaskFacts,
    history: Partial<ForecastHistory>,
    leads: readonly string[],
    { zone }: Viewer
  ): TrialEntry[] {
    const now = this.#clock.now();
    // What rings by itself later is no part of “as if it rang now”.
    const only = history.runs
      ? { ...rule, planned: [], leads: rule.leads.filter(({ lead }) => leads.includes(lead.id)) }
      : rule;
    const facts = this.#source.facts;
    const asked = { ...(history.runs ? {} : this.#outlooks.historyOf(rule, facts)), ...history };
    const told = forecast(
      facts,
      [only],
      [task],
      { now, from: now - 1, until: now + TRIAL_DAYS * MS_PER_DAY },
      asked
    );
    const planner = new Planner(facts, asked.planner);
    const of = {
      planner,
      rules: new Map([[rule.id, rule]]),
      tasks: new Map([task, ...told.imagined].map((one) => [one.id, one])),
      now
    };
    const sent = [...told.notices].filter(
      ({ unrung, taskId }) => unrung === null && this.#stores.tasks.byId(taskId) !== null
    );
    const messages = foretold(
      sent.map((notice) => saidOf(notice, of)),
      planner,
      this.#words
    ).map((message): TrialEntry => {
      const [first] = message.notices;
      const reader = facts.people.get(first!.readerId)!;
      return {
        at: twoTimes(message.date, reader.zone, zone, now),
        is: 'message',
        stepId: first!.stepId,
        words: [...new Set(message.notices.map(({ readerId }) => facts.people.get(readerId)!.name))].join(
          ', '
        ),
        message: {
          key: keyOf(message),
          ...{ to: message.to, subject: message.subject, text: message.text, html: message.html },
          important: message.importance === 'high',
          files: message.attachments.map(({ name }) => name)
        },
        why: saidOf(first!, of).notice.why.map(whyText)
      };
    });
    const reading = {
      ...readingOf(this.#stores, this.#clock, { zone, personId: null }),
      personId: task.ownerId
    };
    const unrung = [...told.notices]
      .filter((notice) => notice.unrung !== null)
      .map((notice): TrialEntry => {
        const bell = bellView({ ...of, notices: told.notices }, notice, reading);
        return {
          at: bell.time,
          is: 'unrung',
          stepId: notice.stepId,
          words: `${bell.recipientName}: ${bell.unrung}`,
          message: null,
          why: bell.why
        };
      });
    return [...messages, ...unrung, ...this.#changes(told, definition, planner, task, zone)].sort(
      (a, b) => a.at.atMs - b.at.atMs
    );
  }

  /** Each step that changes something, once for each moment at which it does. */
  #changes(
    { acts }: Forecast,
    { steps }: RuleDefinition,
    planner: Planner,
    task: TaskFacts,
    zone: Viewer['zone']
  ): TrialEntry[] {
    const names = recordNames(this.#stores);
    const seen = new Set<string>();
    return acts.flatMap(({ at, stepId }): TrialEntry[] => {
      const step = allSteps(steps).find(({ id }) => id === stepId);
      if (!step || seen.has(`${at}/${stepId}`)) return [];
      seen.add(`${at}/${stepId}`);
      const words = `${step.name ? `${step.name}: ` : ''}${stepInShort(step, names)}`;
      return [
        {
          at: twoTimes(at, planner.dates.ownerZone(task), zone, this.#clock.now()),
          is: 'change',
          stepId,
          words,
          message: null,
          why: []
        }
      ];
    });
  }
}

/** What tells one message of a trial from another. */
function keyOf({ to, subject, text }: { to: string[]; subject: string; text: string }): string {
  const parts = JSON.stringify([to, subject, text]);
  return createHash('sha256').update(parts).digest('hex').slice(0, 16);
}

/** The run of a ring that happens now, from its first step. */
function runNow(rule: RuleFacts, leadId: string, task: TaskFacts, now: InstantMs, actorId: number | null) {
  return {
    ...{
      rule,
      leadId,
      taskId: task.id,
      at: 0,
      until: now,
      ringAt: now,
      ordinal: 0,
      anchorValue: 'tried',
      actorId
    },
    ...{ own: [], regardless: true, asking: false }
  };
}
