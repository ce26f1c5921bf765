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
  people: number;
  distinct: number;
  messages: number;
  expected: number | null;
  excluded: { test: string; count: number }[];
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
  changes: { id: number; title: string; undone: boolean }[];
  /** What set it off, with everything that came of it; null where its time came. */
  setOffBy: { id: number; title: string; undone: boolean } | null;
  parent: number | null;
  children: RunRowView[];
}
