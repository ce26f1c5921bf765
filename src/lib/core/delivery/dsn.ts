/** What a delivery status notification says of one recipient. */
export interface ReportedRecipient {
  /** The mail address, as the reporting side had it. */
  address: string;
  /** RFC 3464 §2.3.3. */
  action: 'failed' | 'delayed' | 'delivered' | 'relayed' | 'expanded';
  /** RFC 3463, as `5.1.1`. */
  status: string;
  /** What the other side said, without the type before it. */
  diagnostic: string;
}

const ACTIONS = ['failed', 'delayed', 'delivered', 'relayed', 'expanded'] as const;

/**
 * Reads the machine-readable part of a delivery status notification (RFC 3464 §2): a block of fields about the message, then one for each
 * recipient, between empty lines. What has no recipient, or an action that is none, is passed over.
 */
export function readDeliveryStatus(text: string): ReportedRecipient[] {
  const blocks = text
    .replaceAll('\r\n', '\n')
    .split(/\n[ \t]*\n/)
    .map(fieldsOf);
  return blocks.flatMap((fields): ReportedRecipient[] => {
    const recipient = fields.get('final-recipient') ?? fields.get('original-recipient');
    const action = ACTIONS.find((one) => one === fields.get('action')?.toLowerCase());
    if (!recipient || !action) return [];
    return [
      {
        address: withoutType(recipient).replace(/^<|>$/g, ''),
        action,
        status: fields.get('status') ?? '',
        diagnostic: withoutType(fields.get('diagnostic-code') ?? '')
      }
    ];
  });
}

/** Fields by name in small letters; a line that begins with a space goes on with the one before (RFC 5322 §2.2.3). */
function fieldsOf(block: string): Map<string, string> {
  const unfolded = block.replace(/\n[ \t]+/g, ' ');
  const fields = new Map<string, string>();
  for (const line of unfolded.split('\n')) {
    const colon = line.indexOf(':');
    if (colon > 0) fields.set(line.slice(0, colon).trim().toLowerCase(), line.slice(colon + 1).trim());
  }
  return fields;
}

/** `rfc822; name@place.example` without what stands before the semicolon. */
function withoutType(value: string): string {
  return value.slice(value.indexOf(';') + 1).trim();
}
