import type { Gather } from '../../rule/step-model.ts';
import { joins, type Departing } from './already-told.ts';

/** A notice on its way to one reader, as the messages of an instant are made of it. */
export interface Bundled extends Departing {
  stepId: string;
  taskId: number;
  recipientId: number;
  gather: Gather;
}

/**
 * The messages of one reader at one instant, each a list of notices in the order given: one for each task, or one for all tasks of a Tell.
 * A notice of another rule about the same task and of the same kind joins the message that says so first.
 */
export function bundle<T extends Bundled>(notices: readonly T[]): T[][] {
  const messages: T[][] = [];
  const byKey = new Map<string, T[]>();
  /** Of each task the notices that others may join, in order, with the message of each. */
  const ofTask = new Map<number, { notice: T; message: T[] }[]>();
  for (const notice of notices) {
    const placed = ofTask.get(notice.taskId) ?? [];
    const first = placed.find((other) => joins(notice, other.notice));
    if (first) {
      first.message.push(notice);
      continue;
    }
    const key = `${notice.ruleId}/${notice.stepId}/${notice.gather === 'together' ? '' : notice.recipientId}`;
    let message = notice.gather === 'per task' ? undefined : byKey.get(key);
    if (message) message.push(notice);
    else {
      messages.push((message = [notice]));
      if (notice.gather !== 'per task') byKey.set(key, message);
    }
    placed.push({ notice, message });
    ofTask.set(notice.taskId, placed);
  }
  return messages;
}
