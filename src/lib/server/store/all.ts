import type { Db } from '../db/open.ts';
import { CalendarStore } from './calendars.ts';
import { ChangeStore } from './changes.ts';
import { ContactStore } from './contacts.ts';
import { EngineStateStore } from './engine-state.ts';
import { ErasingStore } from './erasing.ts';
import { ImportStore } from './imports.ts';
import { JournalStore } from './journal.ts';
import { NoticeStore } from './notices.ts';
import { OutboxStore } from './outbox.ts';
import { PeopleStore } from './people.ts';
import { PlanStore } from './plan.ts';
import { ProjectStore } from './projects.ts';
import { RuleStore } from './rules.ts';
import { SessionStore } from './sessions.ts';
import { SettingStore } from './settings.ts';
import { TaskStore } from './tasks.ts';

/** Every store over one connection. */
export interface Stores {
  calendars: CalendarStore;
  changes: ChangeStore;
  contacts: ContactStore;
  engineState: EngineStateStore;
  erasing: ErasingStore;
  imports: ImportStore;
  journal: JournalStore;
  notices: NoticeStore;
  outbox: OutboxStore;
  people: PeopleStore;
  plan: PlanStore;
  projects: ProjectStore;
  rules: RuleStore;
  sessions: SessionStore;
  settings: SettingStore;
  tasks: TaskStore;
}

export function openStores(db: Db): Stores {
  return {
    calendars: new CalendarStore(db),
    changes: new ChangeStore(db),
    contacts: new ContactStore(db),
    engineState: new EngineStateStore(db),
    erasing: new ErasingStore(db),
    imports: new ImportStore(db),
    journal: new JournalStore(db),
    notices: new NoticeStore(db),
    outbox: new OutboxStore(db),
    people: new PeopleStore(db),
    plan: new PlanStore(db),
    projects: new ProjectStore(db),
    rules: new RuleStore(db),
    sessions: new SessionStore(db),
    settings: new SettingStore(db),
    tasks: new TaskStore(db)
  };
}
