import type { Db } from '../db/open.ts';
import type { Seal } from '../db/seal.ts';
import { ActLinkStore } from './act-links.ts';
import { CalendarStore } from './calendars.ts';
import { ChangeStore } from './changes.ts';
import { ChoreStore } from './chores.ts';
import { ContactStore } from './contacts.ts';
import { DeadEndStore } from './dead-ends.ts';
import { DeliveryStore } from './deliveries.ts';
import { DeskLookStore } from './desk-looks.ts';
import { DeskThingStore } from './desk-things.ts';
import { DigestStore } from './digests.ts';
import { EngineStateStore } from './engine-state.ts';
import { ErasingStore } from './erasing.ts';
import { FieldStore } from './fields.ts';
import { HushStore } from './hushes.ts';
import { ImportStore } from './imports.ts';
import { InAppStore } from './in-app.ts';
import { KeptMailStore } from './kept-mail.ts';
import { JournalStore } from './journal.ts';
import { MessageWordsStore } from './message-words.ts';
import { NoticeStore } from './notices.ts';
import { OutboxListStore } from './outbox-list.ts';
import { OutboxStore } from './outbox.ts';
import { OwedEventStore } from './owed-events.ts';
import { PeopleStore } from './people.ts';
import { PlacementStore } from './placements.ts';
import { StandingLeadStore } from './standing-leads.ts';
import { PlanStore } from './plan.ts';
import { SchedulePlanStore } from './schedule-plan.ts';
import { MailStopStore } from './mail-stops.ts';
import { ReplyStore } from './replies.ts';
import { ProjectStore } from './projects.ts';
import { PromiseStore } from './promises.ts';
import { QuestionStore } from './questions.ts';
import { ReaderStore } from './readers.ts';
import { RuleFaultStore } from './rule-faults.ts';
import { RuleStore } from './rules.ts';
import { RunCountStore } from './run-counts.ts';
import { RunStore } from './runs.ts';
import { RushStore } from './rushes.ts';
import { SavedListStore } from './saved-lists.ts';
import { HeldByStore } from './held-by.ts';
import { SecretStore } from './secrets.ts';
import { SessionStore } from './sessions.ts';
import { SettingStore } from './settings.ts';
import { SweepQuestionStore } from './sweep-questions.ts';
import { SweepRunStore } from './sweep-runs.ts';
import { SweepStore } from './sweeps.ts';
import { TaskDetailStore } from './task-details.ts';
import { TaskListStore } from './task-list.ts';
import { TaskPartStore } from './task-parts.ts';
import { TaskStore } from './tasks.ts';
import { TellingStore } from './tellings.ts';
import { SinceStore } from './since.ts';
import { TouchedStore } from './touched.ts';
import { UndoingStore } from './undoing.ts';

/** Every store over one connection. */
export interface Stores {
  calendars: CalendarStore;
  changes: ChangeStore;
  chores: ChoreStore;
  contacts: ContactStore;
  engineState: EngineStateStore;
  deadEnds: DeadEndStore;
  deliveries: DeliveryStore;
  deskLooks: DeskLookStore;
  deskThings: DeskThingStore;
  digests: DigestStore;
  actLinks: ActLinkStore;
  erasing: ErasingStore;
  fields: FieldStore;
  hushes: HushStore;
  imports: ImportStore;
  inApp: InAppStore;
  keptMail: KeptMailStore;
  journal: JournalStore;
  messageWords: MessageWordsStore;
  notices: NoticeStore;
  outbox: OutboxStore;
  outboxList: OutboxListStore;
  owedEvents: OwedEventStore;
  people: PeopleStore;
  placements: PlacementStore;
  standingLeads: StandingLeadStore;
  plan: PlanStore;
  schedules: SchedulePlanStore;
  mailStops: MailStopStore;
  replies: ReplyStore;
  projects: ProjectStore;
  promises: PromiseStore;
  questions: QuestionStore;
  readers: ReaderStore;
  ruleFaults: RuleFaultStore;
  rules: RuleStore;
  runs: RunStore;
  runCounts: RunCountStore;
  rushes: RushStore;
  savedLists: SavedListStore;
  heldBy: HeldByStore;
  secrets: SecretStore;
  sessions: SessionStore;
  settings: SettingStore;
  sweepQuestions: SweepQuestionStore;
  sweepRuns: SweepRunStore;
  sweeps: SweepStore;
  taskDetails: TaskDetailStore;
  taskList: TaskListStore;
  taskParts: TaskPartStore;
  tasks: TaskStore;
  tellings: TellingStore;
  since: SinceStore;
  touched: TouchedStore;
  undoing: UndoingStore;
}

/** @param seal of the secrets that are kept in it */
export function openStores(db: Db, seal: Seal): Stores {
  const secrets = new SecretStore(db, seal);
  return {
    calendars: new CalendarStore(db),
    changes: new ChangeStore(db),
    chores: new ChoreStore(db),
    contacts: new ContactStore(db),
    engineState: new EngineStateStore(db),
    deadEnds: new DeadEndStore(db),
    deliveries: new DeliveryStore(db),
    deskLooks: new DeskLookStore(db),
    deskThings: new DeskThingStore(db),
    digests: new DigestStore(db),
    actLinks: new ActLinkStore(db, secrets),
    erasing: new ErasingStore(db),
    fields: new FieldStore(db),
    hushes: new HushStore(db),
    imports: new ImportStore(db),
    inApp: new InAppStore(db),
    keptMail: new KeptMailStore(db),
    journal: new JournalStore(db),
    messageWords: new MessageWordsStore(db),
    notices: new NoticeStore(db),
    outbox: new OutboxStore(db),
    outboxList: new OutboxListStore(db),
    owedEvents: new OwedEventStore(db),
    people: new PeopleStore(db),
    placements: new PlacementStore(db),
    standingLeads: new StandingLeadStore(db),
    plan: new PlanStore(db),
    schedules: new SchedulePlanStore(db),
    mailStops: new MailStopStore(db),
    replies: new ReplyStore(db),
    projects: new ProjectStore(db),
    promises: new PromiseStore(db),
    questions: new QuestionStore(db),
    readers: new ReaderStore(db),
    ruleFaults: new RuleFaultStore(db),
    rules: new RuleStore(db),
    runs: new RunStore(db),
    runCounts: new RunCountStore(db),
    rushes: new RushStore(db),
    savedLists: new SavedListStore(db),
    heldBy: new HeldByStore(db),
    secrets,
    sessions: new SessionStore(db),
    settings: new SettingStore(db),
    sweepQuestions: new SweepQuestionStore(db),
    sweepRuns: new SweepRunStore(db),
    sweeps: new SweepStore(db),
    taskDetails: new TaskDetailStore(db),
    taskList: new TaskListStore(db),
    taskParts: new TaskPartStore(db),
    tasks: new TaskStore(db),
    tellings: new TellingStore(db),
    since: new SinceStore(db),
    touched: new TouchedStore(db),
    undoing: new UndoingStore(db)
  };
}
