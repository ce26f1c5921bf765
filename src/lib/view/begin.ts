/** What is to be done before a first message is read. */
export type BeginKey = 'week' | 'mail' | 'people' | 'tasks' | 'rule' | 'message';

/** Whether sample tasks are there, or could be. */
export type SampleView = 'laid in' | 'possible' | 'none';

export interface BeginView {
  /** Put away by somebody. */
  away: boolean;
  /** In order, each with how it stands now. */
  lines: { key: BeginKey; done: boolean; now: string }[];
}
