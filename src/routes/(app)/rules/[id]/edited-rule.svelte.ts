import { many } from '$lib/core/many.ts';
import { askJson } from '$lib/ui/form/send.ts';
import { untrack } from 'svelte';
import { applyMend } from '$lib/core/lint/apply-mend.ts';
import type { Mend } from '$lib/core/lint/model.ts';
import type { RuleFault } from '$lib/core/rule/rule-fault.ts';
import type { RuleDefinition } from '$lib/core/rule/model.ts';
import { allSteps } from '$lib/core/rule/step-model.ts';
import { EditedDraft } from '$lib/ui/form/edited-draft.svelte.ts';
import { newPartId } from '$lib/ui/rule/choices.ts';
import type { RuleForecastView } from '$lib/view/models.ts';
import type { BesideView, CheckView, HindsightView, TrialView, WordsView } from '$lib/view/rule-trials.ts';
import { OutlookClient, portOf } from './outlook.ts';

/** A rule as its editor holds it. */
interface RuleInput extends Record<string, unknown> {
  name: string;
  description: string;
  group: string;
  definition: RuleDefinition;
}
/** What the page was opened with, and is read again with. */
interface Opened {
  id: number;
  input: RuleInput;
  /** What is known of it at once: its sentence and its faults. */
  brief: RuleForecastView;
  /** What it would do, which comes after the page. */
  outlook: Promise<RuleForecastView>;
  stamp: string;
}
/** What can stand beside the rule. */
export const SIDES = ['weeks', 'task', 'beside', 'past'] as const;
export type Side = (typeof SIDES)[number];

/** A pause in typing after which what the rule would do is computed anew; what only the server can say waits longer. */
const PAUSE_MS = 60;
const SERVER_PAUSE_MS = 250;

/** A rule while it is edited: what is written, what of it is saved, and what it would do. */
export class EditedRule {
  readonly #opened: () => Opened;
  readonly #outlook: OutlookClient;
  /** For what the forecast stands. */
  #computed: string;
  /** How often the facts have changed beneath what is written, and over which of them it was computed. */
  #otherFacts = $state(0);
  #computedOver = 0;
  readonly draft: EditedDraft<RuleInput>;

  forecast = $state() as RuleForecastView;
  pending = $state(false);
  /** What it would do is not known yet: the forecast says no more than what is known at once. */
  isBrief = $state(true);
  /** Why what it would do could not be computed; empty where it could. */
  fault = $state('');
  /** What is waited for. */
  #awaited: Promise<RuleForecastView> | null = null;
  /** Somebody wanted to turn it on and it was not whole: everything that is missing is said. */
  asked = $state(false);
  /** By what the server knows that nobody has saved the rule since. */
  stamp = $state('');

  side = $state<Side>('weeks');
  trial = $state<TrialView | null>(null);
  beside = $state<BesideView | null>(null);
  check = $state<CheckView | null>(null);
  /** The last four weeks, and the rule as it was written when they were looked at. */
  past = $state<{ view: HindsightView; text: string } | null>(null);
  looking = $state(false);
  #leave: AbortController | null = null;
  /** Why what was asked could not be computed; empty when it could. */
  problem = $state('');
  /** The words of each Tell about a real task. */
  words = $state<Record<string, WordsView>>({});
  /** About which task they are read; null for the one that rings next. */
  wordsTask = $state<number | null>(null);

  /** The task that rings next: the words are read about it. */
  readonly #nextTask = $derived(this.forecast.bells.find(({ unrung }) => unrung === null)?.taskId ?? null);

  /** @param opened what the page holds, read again whenever the page is */
  constructor(opened: () => Opened) {
    this.#opened = opened;
    const { id, input, brief, stamp } = untrack(opened);
    this.#outlook = new OutlookClient(portOf(id));
    this.draft = new EditedDraft(input);
    this.forecast = brief;
    this.stamp = stamp;
    this.#computed = JSON.stringify(input);
    $effect(() => this.#follow());
    $effect(() => this.#recompute());
    $effect(() => this.#askAgain());
    $effect(() => this.#readWords());
    $effect(() => () => {
      this.#outlook.close();
      this.leavePast();
    });
  }

  get input(): RuleInput {
    return this.draft.input;
  }

  get text(): string {
    return this.draft.text;
  }

  get unsaved(): boolean {
    return this.draft.unsaved;
  }

  /** Everything that is wrong as it stands; what is only missing yet is said once somebody wants to turn it on. */
  faults(refused: readonly RuleFault[] | null): readonly RuleFault[] {
    if (this.asked) return this.forecast.faults;
    return refused ?? this.forecast.faults.filter(({ code }) => !code.startsWith('rule-'));
  }

  /** What each block of a step comes to in the next four weeks. */
  get counts(): Record<string, string> {
    const words: Record<string, string> = {};
    for (const { id, kind } of allSteps(this.input.definition.steps)) {
      const { people, changes } = this.forecast.bySteps[id] ?? { people: 0, changes: 0 };
      if (kind === 'tell') words[id] = `${many(people, 'person', 'people')} would be told`;
      else if (kind === 'do') words[id] = `${many(changes, 'change')} in four weeks`;
    }
    return words;
  }

  async show(side: Side): Promise<void> {
    this.side = side;
    if (side === 'beside') this.beside = await this.#ask<BesideView>('beside');
    if (side === 'task' && this.trial) await this.tryOn(this.trial.taskId);
    if (side === 'past' && this.past?.text !== this.text) await this.lookBack();
    else if (side !== 'past') this.leavePast();
  }

  /** Looks at the last four weeks. It takes a while, and is not done again with every key. */
  async lookBack(): Promise<void> {
    this.leavePast();
    const leave = (this.#leave = new AbortController());
    const { text } = this;
    this.problem = '';
    this.looking = true;
    const view = await this.#post<HindsightView>('hindsight', this.input, leave.signal);
    if (leave.signal.aborted) return;
    this.looking = false;
    this.past = view && { view, text };
  }

  leavePast(): void {
    this.#leave?.abort();
    this.looking = false;
  }

  async tryOn(taskId: number): Promise<void> {
    this.trial = await this.#ask<TrialView>(`try?task=${taskId}`);
  }

  /** Sends whoever edits it one message of the trial, as it stands there; nobody else gets it. */
  async sendToMe(key: string): Promise<{ arrived: boolean; words: string }> {
    const of = `try/send?task=${this.trial?.taskId ?? 0}&message=${key}`;
    const said = await askJson<{ arrived: boolean; words: string }>(
      `/rules/${untrack(this.#opened).id}/${of}`,
      this.input
    );
    return said!.ok ? said!.answer : { arrived: false, words: said!.message };
  }

  /** What is said before it is turned on, or that again out of sight. */
  async askCheck(): Promise<void> {
    if (this.check) return void (this.check = null);
    const answer = await this.#ask<CheckView>('check');
    // What is not whole stands at its part from then on, and goes as it is mended.
    this.asked = answer !== null && answer.faults.length > 0;
    if (answer && this.asked) this.forecast = { ...this.forecast, faults: answer.faults };
    this.check = this.asked ? null : answer;
  }

  mend(what: Mend): void {
    this.input.definition = applyMend(
      $state.snapshot(this.input.definition) as RuleDefinition,
      what,
      newPartId
    );
  }

  /** What was sent is saved, whatever has been written since. */
  markSaved(sent: string): void {
    this.draft.markSaved(sent);
    this.check = null;
  }

  /** The page has been read again: after a save or an undo, or because something else in the workspace has changed. */
  #follow(): void {
    const { input, brief, outlook, stamp } = this.#opened();
    // Whatever made the page be read again may have changed what the rule is computed from.
    this.#outlook.forget();
    untrack(() => {
      const fresh = JSON.stringify(input);
      const followed = this.draft.follow(input);
      if (followed === 'same') {
        // The same rule over other facts: what it would do is another thing now.
        if (this.text === fresh) this.#await(outlook, fresh);
        else this.#otherFacts++;
        return;
      }
      if (followed === 'overtaken') return;
      this.stamp = stamp;
      if (followed === 'written on') return;
      this.forecast = brief;
      this.isBrief = true;
      this.#computed = fresh;
      this.#await(outlook, fresh);
    });
  }

  /** What comes after the page is shown where nothing else is written by then; where it does not come it is computed here. */
  #await(outlook: Promise<RuleForecastView>, text: string): void {
    this.#awaited = outlook;
    this.pending = true;
    outlook.then(
      (view) => {
        if (this.#awaited !== outlook) return;
        this.pending = false;
        if (this.text !== text) return;
        this.forecast = view;
        this.isBrief = false;
      },
      () => {
        if (this.#awaited === outlook) this.#otherFacts++;
      }
    );
  }

  /** What it would do follows every change, a moment after the last. */
  #recompute(): (() => void) | undefined {
    const body = this.text;
    if (body === this.#computed && this.#otherFacts === this.#computedOver) {
      this.fault = '';
      return undefined;
    }
    const over = this.#otherFacts;
    const controller = new AbortController();
    const timer = setTimeout(() => void this.#compute(body, over, controller.signal), PAUSE_MS);
    return () => {
      clearTimeout(timer);
      controller.abort();
    };
  }

  async #compute(body: string, over: number, signal: AbortSignal): Promise<void> {
    this.pending = true;
    const computed = await this.#outlook.compute(JSON.parse(body) as RuleInput);
    this.pending = false;
    // Overtaken by a newer change: that one is computed instead.
    if (!computed || signal.aborted) return;
    this.fault = 'fault' in computed ? computed.fault : '';
    if ('fault' in computed) return;
    this.forecast = computed.view;
    this.isBrief = false;
    this.#computed = body;
    this.#computedOver = over;
  }

  /** Computes once more what could not be computed. */
  tryAgain(): void {
    this.#outlook.forget();
    this.#otherFacts++;
  }

  /** What was tried, laid beside or checked follows what is written. */
  #askAgain(): (() => void) | undefined {
    void this.text;
    if (!untrack(() => this.unsaved) && !untrack(() => this.trial ?? this.beside ?? this.check))
      return undefined;
    const timer = setTimeout(
      () =>
        void untrack(async () => {
          if (this.side === 'task' && this.trial) await this.tryOn(this.trial.taskId);
          if (this.side === 'beside') this.beside = await this.#ask<BesideView>('beside');
          if (this.check) this.check = await this.#ask<CheckView>('check');
        }),
      SERVER_PAUSE_MS
    );
    return () => clearTimeout(timer);
  }

  /** The words about a real task follow every change, a moment after the last. */
  #readWords(): () => void {
    const body = this.text;
    const task = this.wordsTask ?? this.#nextTask;
    const controller = new AbortController();
    const timer = setTimeout(() => {
      const of = task === null ? 'words' : `words?task=${task}`;
      void this.#post<Record<string, WordsView>>(of, JSON.parse(body) as RuleInput, controller.signal).then(
        (answer) => {
          if (answer) this.words = answer;
        }
      );
    }, SERVER_PAUSE_MS);
    return () => {
      clearTimeout(timer);
      controller.abort();
    };
  }

  async #ask<T>(what: string): Promise<T | null> {
    this.problem = '';
    return this.#post<T>(what, this.input);
  }

  /** @returns null when the server could not say; why stands in `problem` */
  async #post<T>(what: string, input: RuleInput, signal?: AbortSignal): Promise<T | null> {
    const said = await askJson<T>(`/rules/${untrack(this.#opened).id}/${what}`, input, { signal });
    if (said?.ok) return said.answer;
    if (said) this.problem = said.message;
    return null;
  }
}
