import { may, ROLES, type Role } from './deeds.ts';

/** What of a person decides who may touch the ways by which they come in. */
export interface AccountStanding {
  role: Role;
  /** They can sign in. */
  hasPassword: boolean;
}

/**
 * Whether somebody may change the address of a person, or end their sessions. Who holds the address can ask for a new password: of
 * somebody who can sign in, or whose role is as high as one’s own, that is giving access.
 * @param role of whoever does it
 */
export function mayTouchAccount(role: Role, account: AccountStanding): boolean {
  if (may(role, 'give access')) return true;
  const isBelow = ROLES.indexOf(account.role) < ROLES.indexOf(role);
  return may(role, 'look after people') && isBelow && !account.hasPassword;
}
