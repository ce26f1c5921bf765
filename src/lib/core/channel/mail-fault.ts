/** How far a mail had come when it failed. */
export type MailStep = 'connect' | 'encrypt' | 'sign in' | 'sender' | 'recipient' | 'message';

/** Why a mail server did not take a message, as the line to it knows. */
export interface MailFault {
  step: MailStep;
  /** The system's word for it, as `ECONNREFUSED`; null where the server answered, or nothing is known. */
  code: string | null;
  /** What the server answered (RFC 5321 §4.2); null where it said nothing. */
  reply: number | null;
  /** Its words, or those of the system. */
  said: string;
}

/** What was tried. */
export interface MailTried {
  host: string;
  port: number;
  /** Empty: nobody's. */
  user: string;
  from: string;
  to: string;
}

/**
 * What is wrong and what to do about it, for somebody who knows no mail protocol. Reply codes are those of RFC 5321 §4.2.3 and RFC 4954 §6,
 * the system's those of POSIX.
 */
export function mailFaultWords(fault: MailFault, tried: MailTried): string {
  const { host, port, user, from, to } = tried;
  const { step, reply } = fault;
  const said = reply === null ? '' : ` It said: “${serverWords(fault.said)}”.`;
  if (reply !== null && reply >= 400 && reply < 500 && step !== 'encrypt')
    return `${host} does not take messages at the moment. They are tried again.${said}`;
  switch (step) {
    case 'connect':
      return reply !== null ? `${host} turns us away.${said}` : notReached(fault, host, port);
    case 'encrypt':
      if (reply !== null || !/certificate|self-signed|altname/i.test(fault.said))
        return `${host} offers no such encryption on port ${port}. Choose the other kind of encryption, or its other port.`;
      return `The certificate of ${host} is not trusted (${fault.said}). Use the name that stands on it, or enter the team’s own certificate.`;
    case 'sign in':
      return `${host} refused the sign-in as “${user}”. Check user name and password.${said}`;
    case 'sender':
      return reply === 530
        ? `${host} wants a sign-in. Enter a user name and its password.`
        : `${host} does not send for ${from}. Change the sender in Settings, or sign in as its owner.${said}`;
    case 'recipient':
      return `${host} does not take mail for ${to}. Check the address.${said}`;
    case 'message':
      return reply === null
        ? `The line to ${host} broke while the message was handed over. It may have arrived.`
        : `${host} refused the message.${said}`;
  }
}

function notReached({ code, said }: MailFault, host: string, port: number): string {
  if (code === 'ENOTFOUND' || code === 'EAI_AGAIN' || code === 'EDNS')
    return `No server is called ${host}. Check the name.`;
  if (code === 'ECONNREFUSED')
    return `No mail server answers at ${host}, port ${port}. Check the name and the port.`;
  if (code === 'address-inside') return said;
  return `No answer from ${host}, port ${port}. Check the name and the port, and whether a firewall lets this server through.`;
}

/** The server's words on one line, and not longer than a line of ours. */
function serverWords(said: string): string {
  const words = said.replace(/\s+/g, ' ').trim();
  return words.length > 200 ? `${words.slice(0, 199)}…` : words;
}
