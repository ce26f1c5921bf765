import { POSTED_FAULTS, startPosted, type Posted, type PostedStandIn } from './posted.ts';

/** Numbers that begin so belong to nobody. */
const NOBODY = '+000';
/** A receipt that is not taken is brought again so often, after so long. */
const RECEIPT_WAITS_MS = [0, 500, 2_000];

export interface TextStandInOptions {
  /** 0 lets the machine choose. */
  port: number;
  /** Who shows it may send. */
  token: string;
  /** Where received messages are kept between starts; absent: only in memory. */
  dir?: string;
}

/**
 * The text stand-in: a gateway for text messages. It takes each by `POST /send`, answers 202, and says afterwards by a receipt, posted to the
 * address that came with the message, whether it has arrived.
 */
export function startTextStandIn({ port, token, dir }: TextStandInOptions): Promise<PostedStandIn> {
  return startPosted(
    {
      file: 'texts.jsonl',
      faults: POSTED_FAULTS,
      admits: ({ headers }, path) => {
        if (path !== '/send') return 'another matter';
        return headers.authorization === `Bearer ${token}` ? 'yes' : 'no way in';
      },
      read: ({ to, text, reference }) => ({
        ...{ to: String(to), text: String(text), messageId: String(reference) },
        subject: String(text)
      }),
      isNobody: (to) => to.startsWith(NOBODY),
      after: (message, bounced) => void sendReceipt(message, bounced)
    },
    port,
    dir
  );
}

async function sendReceipt({ body, messageId }: Posted, bounced: boolean): Promise<void> {
  if (typeof body.receipts !== 'string') return;
  const receipt = bounced
    ? { reference: messageId, status: 'failed', reason: 'The telephone is switched off, says the stand-in.' }
    : { reference: messageId, status: 'arrived' };
  for (const wait of RECEIPT_WAITS_MS) {
    await new Promise((resolve) => setTimeout(resolve, wait).unref());
    const answer = await fetch(body.receipts, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(receipt)
    }).catch(() => null);
    if (answer?.ok) return;
  }
}
