/** What a question about a line is about: what can mean several things, or the n-th of the words that were not understood. */
export type QuickAbout = 'due' | 'owner' | 'project' | `unclear${number}`;

/** Something in a line that must be asked. */
export interface QuickChoice {
  about: QuickAbout;
  question: string;
  choices: string[];
}

/** Words of a line that were understood, and as what. */
export interface QuickPiece {
  /** “Due”, “Owner”. */
  label: string;
  /** As they were written. */
  said: string;
  means: string;
}

/** What a line of plain words would become. */
export interface QuickView {
  /** What is left of the line for the name. */
  name: string;
  pieces: QuickPiece[];
  /** Read back before it is saved; empty while there is no name. */
  sentence: string;
  questions: QuickChoice[];
}
