/** Whether messages leave, as every page of those who make rules says it. */
export interface SendingView {
  /** Mail is kept in the Post room here. */
  keeps: boolean;
  /** Why nothing leaves; null where something does, or where that is not known. */
  why: string | null;
}
