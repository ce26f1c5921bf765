import { escapeHtml } from '../../core/message/escape.ts';
import type { AttachedFile } from '../../core/message/attached.ts';
import type { Db } from '../db/open.ts';

interface KeptMessage {
  id: number;
  readerId: number;
  subject: string;
  text: string;
  html: string;
  attachments: string;
}

/** What somebody keeps on their Desk, and wants to be told of. */
const OWN_THINGS = [
  ...['capture', 'shelf_item', 'tally_pin', 'desk_habit', 'desk_look', 'desk_reading'],
  ...['placement', 'standing_lead']
];

/** Taking a person's name and addresses out of everything that is kept; runs inside the transaction of the erasure. */
export class ErasingStore {
  readonly #db: Db;
  readonly #ofPerson;
  readonly #ofName;
  readonly #namesOf;
  readonly #messagesAbout;
  readonly #writeMessage;

  constructor(db: Db) {
    this.#db = db;
    this.#messagesAbout = db.prepare<{ id: number; name: string; html: string }, KeptMessage>(
      `SELECT id, reader_id AS readerId, subject, text, html, attachments FROM message
       WHERE reader_id = @id OR instr(text, @name) > 0 OR instr(html, @html) > 0 OR instr(attachments, @name) > 0`
    );
    this.#writeMessage = db.prepare<KeptMessage>(
      'UPDATE message SET subject = @subject, text = @text, html = @html, attachments = @attachments WHERE id = @id'
    );
    const named = (key: 'before' | 'after') =>
      `SELECT json_extract(${key}, '$.name') AS name FROM change_row WHERE table_name = 'person' AND row_id = @id`;
    this.#namesOf = db
      .prepare<[{ id: number }], string>(
        `SELECT name FROM (SELECT name FROM person WHERE id = @id UNION ${named('before')} UNION ${named('after')}) WHERE name <> ''
         ORDER BY length(name) DESC`
      )
      .pluck();
    this.#ofPerson = [
      `UPDATE person SET name = @as, email = NULL, phone = NULL, chat = NULL, channels = '{}', quiet = '[]', active = 0, erased = 1, manager_id = NULL WHERE id = @id`,
      `DELETE FROM password WHERE person_id = @id`,
      `DELETE FROM session WHERE person_id = @id`,
      `DELETE FROM one_time_link WHERE person_id = @id`,
      `DELETE FROM leave WHERE person_id = @id`,
      `DELETE FROM person_zone WHERE person_id = @id`,
      `DELETE FROM group_member WHERE person_id = @id`,
      ...OWN_THINGS.map((table) => `DELETE FROM ${table} WHERE person_id = @id`),
      `DELETE FROM desk_reading WHERE reader_id = @id`,
      `DELETE FROM sign_in_failure WHERE email = lower(trim(@email))`,
      // What was written about them in change records, and where messages went.
      `UPDATE change_row SET before = json_set(before, '$.name', @as, '$.email', NULL, '$.phone', NULL, '$.chat', NULL)
       WHERE table_name = 'person' AND row_id = @id AND before IS NOT NULL`,
      `UPDATE change_row SET after = json_set(after, '$.name', @as, '$.email', NULL, '$.phone', NULL, '$.chat', NULL)
       WHERE table_name = 'person' AND row_id = @id AND after IS NOT NULL`,
      `UPDATE change_row SET before = json_set(before, '$.note', '') WHERE table_name = 'leave' AND json_extract(before, '$.person_id') = @id`,
      `UPDATE change_row SET after = json_set(after, '$.note', '') WHERE table_name = 'leave' AND json_extract(after, '$.person_id') = @id`,
      ...['capture', 'shelf_item'].flatMap((table) =>
        ['before', 'after'].map(
          (key) => `UPDATE change_row SET ${key} = json_set(${key}, '$.text', '')
       WHERE table_name = '${table}' AND json_extract(${key}, '$.person_id') = @id`
        )
      ),
      `UPDATE delivery SET address = '(erased)' WHERE message_id IN (SELECT id FROM message WHERE reader_id = @id)`,
      `UPDATE delivery SET last_answer = NULL WHERE address = '(erased)'`
    ].map((sql) => db.prepare<[Partial<{ id: number; email: string; as: string }>]>(sql));
    db.function('without_name', { deterministic: true }, withoutName);
    db.function('json_without_name', { deterministic: true }, jsonWithoutName);
    this.#ofName = [
      `UPDATE change SET title = without_name(title, @name, @as) WHERE instr(title, @name) > 0`,
      `UPDATE journal SET data = json_without_name(data, @name, @as) WHERE instr(data, @inJson) > 0`,
      `UPDATE notice SET why = json_without_name(why, @name, @as) WHERE instr(why, @inJson) > 0`
    ].map((sql) => db.prepare<[Partial<{ name: string; inJson: string; as: string }>]>(sql));
  }

  /**
   * Takes out the names that they have now and had before.
   * @param as what stands in the place of the name from now on
   */
  erase({ id, email }: { id: number; email: string | null }, as: string): void {
    this.allow(() => {
      for (const name of this.#namesOf.all({ id })) {
        this.#eraseFromMessages(id, name, as);
        for (const statement of this.#ofName)
          statement.run(namedIn(statement.source, { name, inJson: JSON.stringify(name).slice(1, -1), as }));
      }
      for (const statement of this.#ofPerson)
        statement.run(namedIn(statement.source, { id, email: email ?? '', as }));
    });
  }

  /** From messages about them by their name, and from those to them by their first name too: that is how they are greeted. */
  #eraseFromMessages(id: number, name: string, as: string): void {
    for (const message of this.#messagesAbout.all({ id, name, html: escapeHtml(name) })) {
      const names = message.readerId === id ? [name, name.split(' ')[0]!] : [name];
      const out = (text: string) => names.reduce((rest, one) => withoutName(rest, one, as), text);
      const outOfHtml = (html: string) =>
        names.reduce((rest, one) => withoutName(rest, escapeHtml(one), as), html);
      const files = (JSON.parse(message.attachments) as AttachedFile[]).map((file) => ({
        ...file,
        // A table of comma-separated values doubles quotation marks (RFC 4180 §2).
        text: names.reduce((rest, one) => withoutName(rest, one.replaceAll('"', '""'), as), out(file.text))
      }));
      this.#writeMessage.run({
        ...message,
        ...{ subject: out(message.subject), text: out(message.text), html: outOfHtml(message.html) },
        attachments: JSON.stringify(files)
      });
    }
  }

  /** The journal may be touched while `work` runs. */
  allow(work: () => void): void {
    this.#db.prepare(`INSERT INTO engine_state (key, value) VALUES ('erasing', 'true')`).run();
    work();
    this.#db.prepare(`DELETE FROM engine_state WHERE key = 'erasing'`).run();
  }

  /** Empties the workspace of everything but its settings and statuses, one person and their calendar. */
  clearAllBut(personId: number, calendarIds: readonly number[]): void {
    const keep = { personId, calendars: JSON.stringify(calendarIds) };
    this.allow(() => {
      for (const table of EMPTIED) this.#db.prepare(`DELETE FROM ${table}`).run();
      for (const sql of [
        `UPDATE person SET manager_id = NULL WHERE id = @personId`,
        ...['leave', 'person_zone', 'password', 'session'].map(
          (table) => `DELETE FROM ${table} WHERE person_id <> @personId`
        ),
        `UPDATE leave SET stand_in_id = NULL`,
        `UPDATE person SET manager_id = NULL`,
        `DELETE FROM person WHERE id <> @personId`
      ])
        this.#db.prepare<[object]>(sql).run(sql.includes('@') ? { personId } : {});
      this.#db
        .prepare<[object]>('DELETE FROM calendar WHERE id NOT IN (SELECT value FROM json_each(@calendars))')
        .run({ calendars: keep.calendars });
    });
  }
}

/** Those of the values that a statement names: it takes no others. */
function namedIn<T extends object>(sql: string, values: T): Partial<T> {
  return Object.fromEntries(Object.entries(values).filter(([key]) => sql.includes(`@${key}`))) as Partial<T>;
}

/** Takes a name out of a text wherever it stands as a word of its own. */
function withoutName(text: string, name: string, as: string): string {
  if (!text.includes(name)) return text;
  const escaped = name.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');
  return text.replace(new RegExp(`(?<![\\p{L}\\p{N}])${escaped}(?![\\p{L}\\p{N}])`, 'gu'), () => as);
}

/** The same in every text of a JSON value. */
function jsonWithoutName(json: string, name: string, as: string): string {
  const out = (_: string, value: unknown) =>
    typeof value === 'string' ? withoutName(value, name, as) : value;
  return JSON.stringify(JSON.parse(json, out));
}

/** Children before what they refer to. */
const EMPTIED = [
  'replan',
  'plan',
  'schedule_plan',
  'schedule_seat',
  'schedule_owed',
  'mail_stop',
  'reply',
  'turned_on',
  'digest_plan',
  'digest_run',
  // What was there from the start has no keeper, and stays.
  'digest WHERE keeper_id IS NOT NULL',
  'sweep_question',
  'sweep_chunk',
  'sweep_row',
  'sweep_run',
  'sweep_plan',
  'sweep',
  'message_notice',
  'delivery',
  'message',
  'notice',
  'rush',
  'question_passed',
  'question',
  'run_step',
  'run',
  'ring',
  'chore',
  'contact_link',
  'contact',
  'group_member',
  'team_group',
  'slip',
  'status_span',
  'co_owner',
  'task_tag',
  'comment',
  'time_entry',
  'field_value',
  'field',
  'task_link',
  'reminder',
  'promise',
  'task_round',
  'rule_once',
  'no_reminder',
  'placement',
  'standing_lead',
  'capture',
  'shelf_item',
  'tally_pin',
  'hush',
  'reader_list',
  'message_template',
  'outside',
  'task',
  // The built-in rule stays.
  `rule_version WHERE rule_id IN (SELECT id FROM rule WHERE kind = 'rule')`,
  `rule WHERE kind = 'rule'`,
  'project_member',
  'section',
  'saved_list',
  'project',
  'import_row',
  'import_job',
  'one_time_link',
  'sign_in_failure',
  'change_row',
  'change',
  'journal'
];
