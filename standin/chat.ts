import { startPosted, type PostedStandIn } from './posted.ts';

/** Nobody is in the chat under names that begin so. */
const NOBODY = 'nobody-';

export interface ChatStandInOptions {
  /** 0 lets the machine choose. */
  port: number;
  /** What stands in the address of its webhook: who knows it may post. */
  key: string;
  /** Where received messages are kept between starts; absent: only in memory. */
  dir?: string;
}

/** The chat stand-in: takes what is posted to its incoming webhook, `POST /hooks/KEY`, for the person that the message names. */
export function startChatStandIn({ port, key, dir }: ChatStandInOptions): Promise<PostedStandIn> {
  return startPosted(
    {
      file: 'chat.jsonl',
      // A chat that has taken a message shows it: there is nothing that comes back.
      faults: ['none', 'refuse', 'try-later', 'slow', 'drop'],
      admits: (_request, path) => {
        if (!path.startsWith('/hooks/')) return 'another matter';
        return path === `/hooks/${key}` ? 'yes' : 'no way in';
      },
      read: ({ to, title, text, id }) => ({
        ...{ to: String(to), text: String(text), messageId: String(id) },
        subject: String(title)
      }),
      isNobody: (to) => to.startsWith(NOBODY)
    },
    port,
    dir
  );
}
