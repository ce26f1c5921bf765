import type { ChangedValue } from './changed-things.ts';

/** A run in the journal of its rule. */
export interface RunRowView {
  id: number;
  at: string;
  lead: string;
  task: { id: number; name: string } | null;
  state: string;
  /** What it came to, in a few words. */
  outcome: string;
  stages: StagesView | null;
}

/** What the ring of a schedule, or of a press over a Watch, came to. */
export interface StagesView {
  looked: number;
  found: number;
  excluded: { test: string; count: number }[];
  /** By now: messages that have left and to how many different people, notices that wait, those that are not sent by why, changes. */
  messages: number;
  people: number;
  waiting: number;
  unsent: { reason: string; count: number }[];
  changes: number;
  /** What was foreseen beside it, and why that differs; null where nobody foresaw it. */
  expected: string | null;
}

export interface RunStepView {
  id: number;
  kind: string;
  name: string;
  at: string;
  input: { label: string; value: string }[];
  output: { label: string; value: string }[];
}

export interface RunView extends RunRowView {
  rule: { id: number; name: string; version: number };
  actor: string | null;
  until: string | null;
  steps: RunStepView[];
  notices: {
    id: number;
    person: string;
    state: string;
    reason: string | null;
    /** An attempt at it ended without our knowing how. */
    inDoubt: boolean;
    at: string;
    why: string[];
  }[];
  /** What it and the runs under it changed, task by task. */
  changes: {
    id: number;
    title: string;
    undone: boolean;
    task: { id: number; name: string } | null;
    values: ChangedValue[];
  }[];
  /** What set it off, with everything that came of it; null where its time came. */
  setOffBy: { id: number; title: string; undone: boolean } | null;
  parent: number | null;
  children: RunRowView[];
}
