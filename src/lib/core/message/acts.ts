import { MS_PER_DAY } from '../time/day.ts';
import { escapeHtml } from './escape.ts';

/** What can be done by a link in a message, without signing in. */
export const LINK_ACTS = ['done', 'promise', 'date', 'later', 'yes', 'no', 'change'] as const;
export type LinkAct = (typeof LINK_ACTS)[number];

/** What stands before each link. */
export const ACT_WORDS: Readonly<Record<LinkAct, string>> = {
  done: 'Done',
  promise: 'Acknowledge',
  date: 'Change date',
  later: 'Remind me later',
  yes: 'Yes',
  no: 'No',
  change: 'I will change the task'
};

/** How long such a link works, in ms of the workspace clock from the moment at which its message leaves. */
export const LINK_LASTS_MS = 14 * MS_PER_DAY;

/** A link in a message with what it does. */
export interface ActLink {
  act: LinkAct;
  link: string;
}

/**
 * The links as they stand in the text of a message.
 * @param indent what each line begins with
 */
export function actLines(acts: readonly ActLink[], indent = ''): string {
  return acts.map(({ act, link }) => `${indent}${ACT_WORDS[act]}: ${link}`).join('\n');
}

/** The same in a line of HTML, below the one that they are about; nothing where there are none. */
export function actsInline(acts: readonly ActLink[]): string {
  if (acts.length === 0) return '';
  const links = acts.map(
    ({ act, link }) =>
      `<a href="${escapeHtml(link)}" style="color:#7d530e;display:inline-block;padding:6px 14px 6px 0">${ACT_WORDS[act]}</a>`
  );
  return `<br><span style="font-size:13px">${links.join(' ')}</span>`;
}
