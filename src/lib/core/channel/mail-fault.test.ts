import { describe, expect, it } from 'vitest';
import { mailFaultWords, type MailFault } from './mail-fault.ts';

const TRIED = {
  host: 'mail.team.example',
  port: 587,
  user: 'bell',
  from: 'bell@team.example',
  to: 'ines@team.example'
};
const words = (fault: Partial<MailFault>) =>
  mailFaultWords({ step: 'message', code: null, reply: null, said: '', ...fault }, TRIED);

/** Reply codes: RFC 5321 §4.2.3, RFC 4954 §6 (530, 535). */
describe('why a mail did not leave, in plain words', () => {
  it.each<[Partial<MailFault>, string]>([
    [{ step: 'connect', code: 'ENOTFOUND' }, 'No server is called mail.team.example. Check the name.'],
    [
      { step: 'connect', code: 'ECONNREFUSED' },
      'No mail server answers at mail.team.example, port 587. Check the name and the port.'
    ],
    [
      { step: 'connect', said: 'no connection in time' },
      'No answer from mail.team.example, port 587. Check the name and the port, and whether a firewall lets this server through.'
    ],
    [
      { step: 'connect', reply: 554, said: '554 Go away' },
      'mail.team.example turns us away. It said: “554 Go away”.'
    ],
    [
      { step: 'encrypt', said: 'self-signed certificate' },
      'The certificate of mail.team.example is not trusted (self-signed certificate). Use the name that stands on it, or enter the team’s own certificate.'
    ],
    [
      { step: 'encrypt', reply: 502, said: '502 what?' },
      'mail.team.example offers no such encryption on port 587. Choose the other kind of encryption, or its other port.'
    ],
    [
      { step: 'sign in', reply: 535, said: '535 5.7.8 no' },
      'mail.team.example refused the sign-in as “bell”. Check user name and password. It said: “535 5.7.8 no”.'
    ],
    [
      { step: 'sender', reply: 530, said: '530 first' },
      'mail.team.example wants a sign-in. Enter a user name and its password.'
    ],
    [
      { step: 'sender', reply: 550, said: '550 no' },
      'mail.team.example does not send for bell@team.example. Change the sender in Settings, or sign in as its owner. It said: “550 no”.'
    ],
    [
      { step: 'recipient', reply: 550, said: '550\n nobody' },
      'mail.team.example does not take mail for ines@team.example. Check the address. It said: “550 nobody”.'
    ],
    [
      { step: 'recipient', reply: 451, said: '451 later' },
      'mail.team.example does not take messages at the moment. They are tried again. It said: “451 later”.'
    ],
    [{ reply: 554, said: '554 spam' }, 'mail.team.example refused the message. It said: “554 spam”.'],
    [{}, 'The line to mail.team.example broke while the message was handed over. It may have arrived.']
  ])('%j', (fault, sentence) => {
    expect(words(fault)).toBe(sentence);
  });

  it('keeps a server’s words short', () => {
    expect(words({ reply: 554, said: 'x'.repeat(10_000) }).length).toBeLessThan(300);
  });
});
