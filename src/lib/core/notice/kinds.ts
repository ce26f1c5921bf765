import { namesOf } from '../names-of.ts';
/** A kind of what people are told; for each they choose by which channels they hear of it. */
interface Kind {
  /** As screens and letters name it. */
  words: string;
  /** Whether rules write it: a notice. Digests and faults of rules are told beside them. */
  ofRules: boolean;
  /** How it is drawn on a line of rings. */
  mark: 'reminder' | 'overdue' | 'rung';
  /** Whether a day's limit of overdue notices counts it. */
  countsAsOverdue: boolean;
  /** Whether a day's limit lets it pass. */
  passesLimit: boolean;
  /** Whether its reader can acknowledge it: what is due now, or has been. */
  canBeAcknowledged: boolean;
}

const notice: Kind = {
  ...{ words: '', ofRules: true, mark: 'reminder' },
  ...{ countsAsOverdue: false, passesLimit: false, canBeAcknowledged: false }
};
const told: Kind = { ...notice, ofRules: false };

/** Every kind by its name; those further down the list are never swallowed by those above. */
export const KINDS = {
  finished: { ...notice, words: 'finished' },
  assigned: { ...notice, words: 'assigned to you' },
  reminder: { ...notice, words: 'reminder' },
  'due today': { ...notice, words: 'due today', canBeAcknowledged: true },
  question: { ...notice, words: 'question', passesLimit: true },
  overdue: { ...notice, words: 'overdue', mark: 'overdue', countsAsOverdue: true, canBeAcknowledged: true },
  escalation: {
    ...notice,
    words: 'escalation',
    mark: 'rung',
    countsAsOverdue: true,
    canBeAcknowledged: true
  },
  'digest of due': { ...told, words: 'digest: due work' },
  'digest of overdue': { ...told, words: 'digest: overdue work' },
  'rule fault': { ...told, words: 'failure of your rules' }
} as const satisfies Record<string, Kind>;

/** What people choose channels for: each kind of notice, their digests, and faults of the rules that they keep. */
export type TellingKind = keyof typeof KINDS;
export const TELLING_KINDS = namesOf(KINDS);

/** Kinds of notice. */
export type NoticeKind = Exclude<TellingKind, 'digest of due' | 'digest of overdue' | 'rule fault'>;
export const NOTICE_KINDS = TELLING_KINDS.filter((kind): kind is NoticeKind => KINDS[kind].ofRules);
