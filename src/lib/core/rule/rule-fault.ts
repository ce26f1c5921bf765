/** A fault that keeps a rule from being turned on, with the part at which it stands. */
export interface RuleFault {
  part: 'name' | 'watch' | 'ring' | 'tell' | 'do' | 'stop';
  /** The step at which it stands; absent where it is none. */
  step?: string;
  code: string;
  message: string;
}

/** Runs a check; what it throws stands at a part. */
export type Checker = (part: RuleFault['part'], test: () => void, step?: string) => void;
