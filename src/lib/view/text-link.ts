/** What the page shows to which the short link of a text message leads. */
export interface TextLinkView {
  reader: string;
  items: {
    /** As the message said it. */
    subject: string;
    taskId: number;
    /** What can be done about it without signing in; none where nothing is left to do. */
    acts: { words: string; path: string }[];
  }[];
}
