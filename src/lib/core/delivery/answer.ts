/** Somebody, or their mail program, has answered a message. */
export interface Answered {
  /** Ids of messages that it says it is about, those nearest to it first. */
  about: string[];
  ownId: string;
  fromName: string;
  fromAddress: string;
  /** A program sent it. */
  automatic: boolean;
  text: string;
}
