import type { Recipient } from '../step-model.ts';
import type { Names } from './condition-words.ts';
import { quoted } from './list.ts';

const COPY_WORDS = { to: '', cc: ' (copy)', bcc: ' (hidden copy)' } as const;

/** One recipient in words: “the owner’s manager (copy)”. */
export function recipientWords(recipient: Recipient, names: Names): string {
  return `${whoWords(recipient, names)}${COPY_WORDS[recipient.as ?? 'to']}`;
}

function whoWords(recipient: Recipient, names: Names): string {
  switch (recipient.who) {
    case 'owner':
      return 'the owner';
    case 'manager':
      return recipient.up === 1 ? 'the owner’s manager' : `the owner’s manager ${recipient.up} levels up`;
    case 'above':
      return recipient.up === 1
        ? 'the next active manager, or the coordinators'
        : `the active manager ${recipient.up} levels up, or the coordinators`;
    case 'creator':
      return 'its creator';
    case 'keeper':
      return 'the rule’s keeper';
    case 'coordinator':
      return 'the coordinators';
    case 'actor':
      return 'the person who changed it';
    case 'members':
      return recipient.role ? `the project’s members as ${quoted(recipient.role)}` : 'the project’s members';
    case 'person':
      return names.person(recipient.id);
    case 'group':
      return `the group ${names.group(recipient.id)}`;
    case 'field':
      return `the people in “${names.field(recipient.id)}”`;
    case 'contacts':
      return 'its outside contacts';
    case 'address':
      return recipient.address;
    case 'readers':
      return `the reader list ${names.readers(recipient.id)}`;
  }
}
