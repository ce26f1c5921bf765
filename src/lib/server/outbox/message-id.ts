import { createHash } from 'node:crypto';

/** What a message's identity is made of: the key of its notice. */
export interface MessageKey {
  ruleId: number;
  leadId: string;
  taskId: number;
  anchorValue: string;
  round: number;
  ordinal: number;
  stepId: string;
  recipientId: number;
  snooze: number;
}

/**
 * The Message-ID of a notice through a channel, the same at every attempt: a receiver knows a repeat by it
 * (RFC 5322 §3.6.4).
 */
export function messageIdOf(key: MessageKey, channel: string, fromAddress: string): string {
  const parts = [
    key.ruleId,
    key.leadId,
    key.taskId,
    key.anchorValue,
    key.round,
    key.ordinal,
    key.stepId,
    key.recipientId,
    key.snooze,
    channel
  ];
  const digest = createHash('sha256').update(parts.join('\n')).digest('hex').slice(0, 32);
  return `<${digest}@${fromAddress.split('@')[1] ?? 'early-bell.invalid'}>`;
}
