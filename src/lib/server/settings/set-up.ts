import { WEEKDAYS } from '../../core/calendar/spec.ts';
import type { Auth } from '../auth/auth.ts';
import type { FirstCoordinator } from '../account/schema.ts';
import type { ChangeWriter } from '../store/change-writer.ts';
import type { Stores } from '../store/all.ts';
import type { Committer } from '../workspace/commit.ts';

/** Statuses of a new workspace, each in its phase. */
export const FIRST_STATUSES = [
  { name: 'To do', phase: 'waiting to start' },
  { name: 'Under way', phase: 'under way' },
  { name: 'Waiting for others', phase: 'stuck on others' },
  { name: 'Finished', phase: 'finished' },
  { name: 'Closed', phase: 'closed' }
] as const;

/** A fresh workspace and its first coordinator. */
export class SetupService {
  readonly #stores: Stores;
  readonly #committer: Committer;
  readonly #auth: Auth;

  constructor(stores: Stores, committer: Committer, auth: Auth) {
    this.#stores = stores;
    this.#committer = committer;
    this.#auth = auth;
  }

  /** Whether somebody must set the workspace up before anything else. */
  isFresh(): boolean {
    return this.#stores.settings.workspace() === null;
  }

  /**
   * Sets the workspace up with its first coordinator, by the one-time link printed at start.
   * @returns the token of their session
   * @throws CodedError `link-spent`
   */
  async begin(linkToken: string, input: FirstCoordinator): Promise<string> {
    this.#auth.spendFirstLink(linkToken);
    const { result: personId } = this.#committer.commit(
      { personId: null, source: 'set-up' },
      'The workspace was set up',
      (writer) => this.#write(writer, input)
    );
    await this.#auth.setPassword(personId, input.password);
    return this.#auth.signInAs(personId);
  }

  #write(writer: ChangeWriter, { workspace, name, email, zone }: FirstCoordinator): number {
    const week = Object.fromEntries(WEEKDAYS.slice(0, 5).map((weekday) => [weekday, ['09:00-17:00']]));
    const calendarId = writer.insert('calendar', { name: 'Monday to Friday', week: JSON.stringify(week) });
    FIRST_STATUSES.forEach((status, position) => writer.insert('status', { ...status, position }));
    this.#stores.settings.saveWorkspace(writer, {
      name: workspace,
      zone,
      calendarId,
      noticeTime: '09:00',
      endOfDay: 'midnight',
      mailFromName: `${workspace} reminders`,
      mailFromAddress: `bell@${email.split('@')[1]!}`
    });
    return writer.insert('person', { name, email, zone, calendar_id: calendarId, role: 'administrator' });
  }
}
