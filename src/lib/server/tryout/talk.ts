import type { ErrorCode, ErrorParams } from '../../core/errors.ts';
import type { ContainerOptions } from '../container.ts';
import type { Asked } from './asked.ts';

/** When something is looked at: both clocks, ms. */
export interface Moment {
  workspaceMs: number;
  machineMs: number;
}

/** Options that are plain data: they can be given to another thread. */
export type PlainOptions = Omit<ContainerOptions, 'db' | 'channels' | 'machine' | 'chance' | 'logTo'>;

export function plainOptions(options: ContainerOptions): PlainOptions {
  const plain = { ...options };
  for (const name of ['db', 'channels', 'machine', 'chance', 'logTo'] as const) delete plain[name];
  return plain;
}

/** What a thread that tries things out is told once. */
export interface Told {
  options: PlainOptions;
  /** The file of the workspace. */
  file: string;
}

/** What it is asked. */
export interface Question {
  personId: number;
  asked: Asked;
  at: Moment;
}

/** What it says of that: how far it has come, from 0 to 1, and then its answer, or why there is none. */
export type Said =
  | { part: number }
  | { answer: unknown }
  | { refused: { code: ErrorCode; params: ErrorParams; field: string | undefined } }
  | { failed: string };
