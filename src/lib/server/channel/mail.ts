import { createTransport } from 'nodemailer';
import MailComposer from 'nodemailer/lib/mail-composer/index.js';
import type { Channel, OutgoingMessage } from './channel.ts';

export interface MailRoute {
  host: string;
  port: number;
}

export interface MailSender {
  name: string;
  address: string;
}

/**
 * Mail over SMTP (RFC 5321).
 * @param sender asked at each message, since the settings may change
 */
export function mailChannel(route: MailRoute, sender: () => MailSender): Channel {
  const transport = createTransport({
    host: route.host,
    port: route.port,
    pool: true,
    maxConnections: 4,
    secure: false,
    ignoreTLS: true,
    connectionTimeout: 5_000,
    greetingTimeout: 5_000,
    socketTimeout: 20_000
  });
  return {
    name: 'mail',
    async send(message) {
      const { name, address } = sender();
      await transport.sendMail({
        envelope: { from: address, to: [message.address] },
        raw: await mimeOf(message, { name, address })
      });
    },
    close: () => transport.close()
  };
}

/** The bytes of a message (RFC 5322, MIME multipart/alternative, in a multipart/mixed where files go along). The same message gives the same bytes at every attempt. */
export async function mimeOf(message: OutgoingMessage, from: MailSender): Promise<Buffer> {
  const boundary = message.messageId.replace(/[^0-9a-z]/gi, '').slice(0, 24);
  const composer = new MailComposer({
    from,
    to: message.to.map(({ name, address }) => ({ name, address })),
    subject: message.subject,
    date: new Date(message.leavesAt),
    messageId: message.messageId,
    text: message.text,
    html: message.html,
    // Notices are sent by a program: well-behaved responders do not answer them (RFC 3834 §5).
    headers: {
      'Auto-Submitted': 'auto-generated',
      // RFC 2156 §5.3.4; one that is not marked says nothing.
      ...(message.importance === 'high' ? { Importance: 'high' } : {})
    },
    attachments: message.attachments.map(({ name, type, text }) => ({
      filename: name,
      contentType: type,
      content: text
    })),
    baseBoundary: boundary
  } as ConstructorParameters<typeof MailComposer>[0]);
  return composer.compile().build();
}
