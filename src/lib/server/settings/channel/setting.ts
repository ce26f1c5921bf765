import type Joi from 'joi';
import type { ChannelSecret } from '../../../core/channel/settings.ts';

/** A secret as a form gives it: null leaves what is kept as it is. */
export type GivenSecret = string | null;

/** What a form sent. */
export type Form = Readonly<Record<string, string>>;

/** Where secrets are kept; inside the unit of work under way. */
export interface Secrets {
  read(name: ChannelSecret): string | null;
  keep(name: ChannelSecret, value: string | null): void;
}

/**
 * How a channel is set: its part of the form, what of it is kept, and what a screen may show of that.
 * Faults of what was given are named by its path, as `text.url`.
 */
export interface ChannelSetting<Given, Kept, Shown> {
  schema: Joi.Schema;
  /** What the form says of this channel; parts whose first field is empty are not set. */
  readForm(form: Form): unknown;
  /** Under which field of the form a fault stands. @param path below the channel's own, as `url` */
  fieldOf(path: string, form: Form): string;
  /** Fields that nobody should read over a shoulder: they do not come back to be mended. */
  hidden: readonly string[];
  /** Whom it would talk to, each with the path at which it was given. */
  hosts(given: Given): { host: string; path: string }[];
  /** Puts secrets where they are kept. @returns what else is kept @throws CodedError `bad-field` */
  keep(given: Given, before: Kept, secrets: Secrets): Kept;
  shown(kept: Kept, secrets: Secrets): Shown;
}
