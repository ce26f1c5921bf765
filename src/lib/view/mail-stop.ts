/** What the page shows on which mail is stopped. */
export interface MailStopView {
  /** Whose mail it is: a name, or the address of somebody outside. */
  reader: string;
  workspace: string;
  /** Kinds of messages in words; null for all mail. */
  kinds: string[] | null;
  stopped: boolean;
  /** How they hear of it then; null where they do not. */
  instead: string | null;
  /** Where all of it is chosen; null for whoever has no page. */
  page: string | null;
}
