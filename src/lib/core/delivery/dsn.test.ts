import { describe, expect, it } from 'vitest';
import { readDeliveryStatus } from './dsn.ts';

describe('delivery status notifications', () => {
  // RFC 3464, appendix E.1 "Simple DSN", from memory.
  it('read the simple example of the standard', () => {
    const text = `Reporting-MTA: dns; cs.utk.edu

Original-Recipient: rfc822;louisl@larry.slip.umd.edu
Final-Recipient: rfc822;louisl@larry.slip.umd.edu
Action: failed
Status: 4.0.0
Diagnostic-Code: smtp; 426 connection timed out
Last-Attempt-Date: Thu, 7 Jul 1994 17:15:49 -0400
`;
    expect(readDeliveryStatus(text)).toEqual([
      {
        address: 'louisl@larry.slip.umd.edu',
        action: 'failed',
        status: '4.0.0',
        diagnostic: '426 connection timed out'
      }
    ]);
  });

  it('read several recipients, folded lines and other capitals', () => {
    const text = [
      'Reporting-MTA: dns; mail.example',
      '',
      'Final-Recipient: RFC822; <a@place.example>',
      'ACTION: Failed',
      'Status: 5.1.1',
      'Diagnostic-Code: smtp; 550 no such',
      '  mailbox here',
      '',
      'Final-Recipient: rfc822; b@place.example',
      'Action: delayed',
      'Status: 4.4.7',
      ''
    ].join('\r\n');
    expect(readDeliveryStatus(text)).toEqual([
      {
        address: 'a@place.example',
        action: 'failed',
        status: '5.1.1',
        diagnostic: '550 no such mailbox here'
      },
      { address: 'b@place.example', action: 'delayed', status: '4.4.7', diagnostic: '' }
    ]);
  });

  it.each(['', 'hello', 'Action: failed', 'Final-Recipient: rfc822; x@y\nAction: eaten'])(
    'pass over what is none: %j',
    (text) => expect(readDeliveryStatus(text)).toEqual([])
  );
});
