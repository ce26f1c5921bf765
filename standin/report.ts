import { createTransport } from 'nodemailer';
import type { Envelope } from './mailbox.ts';

const BOUNDARY = 'report-of-the-stand-in';

/**
 * Reports to the sender that a message could not be delivered: a delivery status notification (RFC 3464), sent from nobody, so that nobody
 * reports about the report (RFC 5321 §4.5.5).
 * @param port where such reports are taken on this machine
 */
export async function sendReport(port: number, raw: Buffer, { from, to }: Envelope): Promise<void> {
  const transport = createTransport({ host: '127.0.0.1', port, secure: false, ignoreTLS: true });
  try {
    await transport.sendMail({ envelope: { from: '', to: [from] }, raw: reportOf(raw, from, to) });
  } finally {
    transport.close();
  }
}

function reportOf(raw: Buffer, from: string, to: readonly string[]): string {
  const recipients = to.map((address) =>
    [
      '',
      `Final-Recipient: rfc822; ${address}`,
      'Action: failed',
      'Status: 5.2.1',
      'Diagnostic-Code: smtp; 550 5.2.1 The mailbox is closed, says the stand-in.'
    ].join('\r\n')
  );
  return [
    'From: Mail Delivery Subsystem <mailer-daemon@stand-in.example>',
    `To: <${from}>`,
    'Subject: Your message could not be delivered',
    `Date: ${new Date().toUTCString()}`,
    'MIME-Version: 1.0',
    `Content-Type: multipart/report; report-type=delivery-status; boundary="${BOUNDARY}"`,
    '',
    `--${BOUNDARY}`,
    'Content-Type: text/plain; charset=utf-8',
    '',
    'Your message could not be delivered.',
    `--${BOUNDARY}`,
    'Content-Type: message/delivery-status',
    '',
    'Reporting-MTA: dns; stand-in.example',
    ...recipients,
    '',
    `--${BOUNDARY}`,
    'Content-Type: message/rfc822',
    '',
    raw.toString('latin1'),
    `--${BOUNDARY}--`,
    ''
  ].join('\r\n');
}
