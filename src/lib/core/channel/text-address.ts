/** By what a gateway's receipts name a message: the same at every attempt, so that it knows a repeat. */
export function textReference(messageId: string, phone: string): string {
  return `${messageId} ${phone}`;
}

/** The message and the number that a reference is made of. */
export function readTextReference(reference: string): { messageId: string; phone: string } {
  const end = reference.indexOf(' ');
  return { messageId: reference.slice(0, end), phone: reference.slice(end + 1) };
}

/** A number as gateways take it: digits, and a plus where it was written (ITU-T E.164). */
export function plainNumber(phone: string): string {
  return phone.replace(/[^\d+]/g, '');
}
