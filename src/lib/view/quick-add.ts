/** Something in a line that can mean several things. */
export interface QuickChoice {
  about: 'due' | 'owner' | 'project';
  question: string;
  choices: string[];
}

/** What a line of plain words would become. */
export interface QuickView {
  name: string;
  /** Read back before it is saved; empty while there is no name. */
  sentence: string;
  questions: QuickChoice[];
}
