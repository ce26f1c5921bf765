import type { EndOfDay } from '../../core/ring/moments.ts';
import type { Db } from '../db/open.ts';
import type { ChangeWriter } from './changes.ts';

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

/** The workspace's settings: one row. */
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

  saveWorkspace(writer: ChangeWriter, settings: WorkspaceSettings): void {
    const row = this.#read.get('workspace');
    const value = JSON.stringify(settings);
    if (row) writer.update('setting', row.id, { value });
    else writer.insert('setting', { key: 'workspace', value });
  }
}
