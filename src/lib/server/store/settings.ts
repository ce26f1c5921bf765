import { forEachLeaving } from '../../core/channel/channels.ts';
import { NOTHING_SET, type ChannelSettings } from '../../core/channel/settings.ts';
import { NO_RATE } from '../../core/delivery/rate.ts';
import type { EndOfDay } from '../../core/ring/moments.ts';
import type { Db } from '../db/open.ts';
import type { ChangeWriter } from './change-writer.ts';

/** What is settled of the list that a workspace begins with. */
export interface BeginSettings {
  away: boolean;
  /** Somebody has said that zone and week are right as they are. */
  weekIsRight: boolean;
}

/** What a workspace sets for all. */
export interface WorkspaceSettings {
  name: string;
  zone: string;
  calendarId: number;
  /** `HH:MM`: when a notice on a date leaves if its rule names no time. */
  noticeTime: string;
  endOfDay: EndOfDay;
  mailFromName: string;
  mailFromAddress: string;
}

/** The workspace's settings: one row a subject. */
export class SettingStore {
  readonly #read;

  constructor(db: Db) {
    this.#read = db.prepare<[string], { id: number; value: string }>(
      'SELECT id, value FROM setting WHERE key = ?'
    );
  }

  /** Null before the workspace is set up. */
  workspace(): WorkspaceSettings | null {
    const row = this.#read.get('workspace');
    return row ? (JSON.parse(row.value) as WorkspaceSettings) : null;
  }

  /** The domain that Message-IDs of account, test and keeper messages end in. */
  mailDomain(): string {
    return this.workspace()?.mailFromAddress.split('@')[1] ?? 'early-bell.invalid';
  }

  saveWorkspace(writer: ChangeWriter, settings: WorkspaceSettings): void {
    this.#save(writer, 'workspace', settings);
  }

  /** What of Begin somebody has settled. */
  begin(): BeginSettings {
    const row = this.#read.get('begin');
    return {
      away: false,
      weekIsRight: false,
      ...((row ? JSON.parse(row.value) : {}) as Partial<BeginSettings>)
    };
  }

  saveBegin(writer: ChangeWriter, settings: BeginSettings): void {
    this.#save(writer, 'begin', settings);
  }

  channels(): ChannelSettings {
    const row = this.#read.get('channels');
    const kept = (row ? JSON.parse(row.value) : {}) as Partial<ChannelSettings>;
    // A channel that came later is not set.
    return {
      keepsMail: false,
      ...NOTHING_SET,
      ...kept,
      rates: { ...forEachLeaving(() => NO_RATE), ...kept.rates }
    };
  }

  saveChannels(writer: ChangeWriter, settings: ChannelSettings): void {
    this.#save(writer, 'channels', settings);
  }

  #save(writer: ChangeWriter, key: string, settings: unknown): void {
    const row = this.#read.get(key);
    const value = JSON.stringify(settings);
    if (row) writer.update('setting', row.id, { value });
    else writer.insert('setting', { key, value });
  }
}
