/** What tasks do by themselves at an instant, and what sweeps do to them; done between slices, each in a change of its own. */
export interface EngineChores {
  nextAt(): number | null;
  runOne(now: number): void;
  /** Something long is half-way: its next slice comes before plans are made again, of which it would make more. */
  isUnderWay(): boolean;
}
