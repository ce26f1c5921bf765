import Joi from 'joi';
import { CHANNELS } from '../../core/channel/channels.ts';
import { ACT_NAMES } from '../../core/rule/acts.ts';
import { RULE_EVENTS } from '../../core/rule/events.ts';
import { OPS, TESTED, type Condition } from '../../core/rule/condition.ts';
import { LATE_CHOICES } from '../../core/ring/if-late.ts';
import { AWAY_CHOICES } from '../../core/ring/reader.ts';
import { CLOSED_DAY_RULES, UNITS } from '../../core/ring/lead.ts';
import {
  DEFAULT_PAST,
  DEFAULT_QUIET,
  NO_STOP,
  QUIET_FOR,
  MOST_LEADS,
  MOST_STEPS,
  type RuleDefinition
} from '../../core/rule/model.ts';
import { UNSEEN, PHASES, PRIORITIES } from '../../core/task/model.ts';
import {
  ATTACHMENTS,
  GATHERS,
  IMPORTANCES,
  REACHES,
  TABLE_FIELDS,
  type Recipient
} from '../../core/rule/step-model.ts';
import { NOTICE_KINDS } from '../../core/notice/kinds.ts';
import { HAND_PLACES, ONCE_DATES } from '../../core/rule/lead-model.ts';
import { LEAD_ANCHORS } from '../../core/anchor/anchors.ts';

/** Bodies and descriptions of a rule are at most so long. */
const LONGEST_TEXT = 100_000;

const stepId = Joi.string().max(40).required();
const id = Joi.number().integer().positive();
const time = Joi.string().max(5).empty('').allow(null).default(null);
const date = Joi.string().max(10);
const idOrName = Joi.alternatives(Joi.number(), Joi.string().max(200).allow(''));
const zone = Joi.alternatives(
  Joi.object({ of: Joi.valid('recipient', 'owner', 'project', 'workspace').required() }),
  Joi.object({ of: Joi.valid('named').required(), zone: Joi.string().max(60).required() })
);

const test = Joi.object({
  field: Joi.alternatives(
    Joi.valid(...Object.keys(TESTED)),
    Joi.object({ own: id.required(), end: Joi.valid('from', 'until') })
  ).required(),
  op: Joi.valid(...new Set(Object.values(OPS).flat())).required(),
  value: Joi.alternatives(
    Joi.number(),
    Joi.string().max(500).allow(''),
    Joi.array().items(idOrName).max(200)
  ).allow(null),
  zone: Joi.alternatives(
    Joi.object({ of: Joi.valid('workspace').required() }),
    Joi.object({ of: Joi.valid('named').required(), zone: Joi.string().max(60).required() })
  )
});
const parts = Joi.array().items(Joi.link('#conditionTree')).max(300).required();
/** A tree of all, any and none over tests; how large it may be is said by the core. */
const conditionSchema = Joi.alternatives<Condition>(
  Joi.object({ all: parts }),
  Joi.object({ any: parts }),
  Joi.object({ none: parts }),
  test
).id('conditionTree');

/** Refers to the tree from wherever one stands; null where there may be none. */
const condition = Joi.alternatives(Joi.valid(null), Joi.link('#conditionTree'));

const only = Joi.object({
  priorities: Joi.array()
    .items(Joi.valid(...PRIORITIES))
    .unique()
    .default([]),
  tags: Joi.array().items(Joi.string().trim().max(60)).max(50).default([]),
  groups: Joi.array().items(id).max(100).default([])
});
const leadBase = {
  id: Joi.string().max(40).required(),
  on: Joi.boolean().default(true),
  only: only.allow(null).default(null),
  zone: zone.required()
};
const n = Joi.number().integer().min(-1_000_000_000).max(1_000_000_000);
const offsetLead = Joi.object({
  ...leadBase,
  kind: Joi.valid('offset').default('offset'),
  anchor: Joi.valid(...LEAD_ANCHORS).required(),
  field: Joi.object({ id: id.required(), end: Joi.valid('from', 'until').default('from') }),
  after: Joi.string().max(40),
  n: n.required(),
  unit: Joi.valid(...UNITS).required(),
  closedDay: Joi.valid(...CLOSED_DAY_RULES).required(),
  time,
  repeat: Joi.object({
    n: n.required(),
    unit: Joi.valid(...UNITS).required(),
    most: Joi.number().integer().required()
  })
    .allow(null)
    .default(null),
  instead: Joi.array()
    .items(Joi.object({ only: only.required(), n: n.required(), unit: Joi.valid(...UNITS).required() }))
    .max(10)
});
const scheduleLead = Joi.object({
  ...leadBase,
  kind: Joi.valid('schedule').required(),
  rrule: Joi.string().max(500).required(),
  start: date.required(),
  time: Joi.string().max(5).required(),
  closedDay: Joi.valid(...CLOSED_DAY_RULES).default('skip'),
  oncePerDate: Joi.boolean().default(false),
  onceFor: Joi.object({
    date: Joi.valid(...ONCE_DATES).required(),
    field: Joi.object({ id: id.required(), end: Joi.valid('from', 'until').default('from') })
  }),
  since: date
});
const eventLead = Joi.object({
  ...leadBase,
  kind: Joi.valid('event').required(),
  event: Joi.valid(...RULE_EVENTS).required(),
  from: Joi.array().items(idOrName).max(100),
  to: Joi.array().items(idOrName).max(100),
  field: Joi.alternatives(Joi.number(), Joi.string().max(60)),
  wide: Joi.boolean().default(false)
});
const handLead = Joi.object({
  ...leadBase,
  kind: Joi.valid('by hand').required(),
  caption: Joi.string().trim().max(80).allow('').default(''),
  confirm: Joi.string().trim().max(300).allow(''),
  places: Joi.array()
    .items(Joi.valid(...HAND_PLACES))
    .unique()
});
const lead = Joi.alternatives().conditional('.kind', {
  switch: [
    { is: 'schedule', then: scheduleLead },
    { is: 'event', then: eventLead },
    { is: 'by hand', then: handLead }
  ],
  otherwise: offsetLead
});

const named = {
  as: Joi.valid('to', 'cc', 'bcc'),
  leads: Joi.array().items(Joi.string().max(40)).max(MOST_LEADS)
};
/** One who is told. */
export const recipientSchema = Joi.alternatives<Recipient>(
  Joi.object({
    ...named,
    who: Joi.valid('owner', 'creator', 'keeper', 'coordinator', 'actor', 'contacts').required()
  }),
  Joi.object({
    ...named,
    who: Joi.valid('manager', 'above').required(),
    up: Joi.number().integer().min(1).max(10).required()
  }),
  Joi.object({
    ...named,
    who: Joi.valid('members').required(),
    role: Joi.string().max(100).allow(null).default(null)
  }),
  Joi.object({
    ...named,
    who: Joi.valid('person', 'group', 'field', 'readers').required(),
    id: id.required()
  }),
  Joi.object({
    ...named,
    who: Joi.valid('address').required(),
    address: Joi.string().max(254).allow('').required()
  })
);

const stepBase = {
  id: stepId,
  name: Joi.string().allow('').trim().max(120).default(''),
  description: Joi.string().allow('').trim().max(2_000).default(''),
  leads: Joi.array().items(Joi.string().max(40)).max(MOST_LEADS).allow(null).default(null)
};
/** Columns of a table in a message. */
export const columnsSchema = Joi.array()
  .items(
    Joi.object({
      field: Joi.valid(...TABLE_FIELDS).required(),
      caption: Joi.string().allow('').max(60).default('')
    })
  )
  .max(20);
/** Files that go along with a message. */
export const attachSchema = Joi.array()
  .items(Joi.valid(...ATTACHMENTS))
  .unique()
  .default([]);
const tell = Joi.object({
  ...stepBase,
  kind: Joi.valid('tell').required(),
  to: Joi.array().items(recipientSchema).max(50).required(),
  channels: Joi.array()
    .items(Joi.valid(...CHANNELS))
    .min(1)
    .unique()
    .allow(null)
    .default(null),
  reach: Joi.valid(...REACHES).required(),
  away: Joi.valid(...AWAY_CHOICES).default('stand-in'),
  gather: Joi.valid(...GATHERS).required(),
  subject: Joi.string().allow('').max(500).required(),
  body: Joi.string().allow('').max(LONGEST_TEXT).required(),
  several: Joi.object({
    subject: Joi.string().allow('').max(500).required(),
    body: Joi.string().allow('').max(LONGEST_TEXT).required()
  }).required(),
  columns: columnsSchema.required(),
  force: Joi.valid('urgent', 'must').allow(null).default(null),
  fold: Joi.boolean().default(false),
  noticeKind: Joi.valid(...NOTICE_KINDS)
    .allow(null)
    .default(null),
  importance: Joi.valid(...IMPORTANCES).default('ordinary'),
  attach: attachSchema
});

const expression = Joi.alternatives(
  Joi.object({
    from: Joi.valid('today', 'due', 'start').required(),
    n: n.required(),
    unit: Joi.valid('day', 'week', 'month', 'workday').required()
  }),
  Joi.object({ weekday: Joi.valid('next week').required() }),
  Joi.object({ none: Joi.valid(true).required() })
);
const assignee = Joi.alternatives(
  Joi.object({ who: Joi.valid('owner', 'keeper', 'actor', 'creator', 'manager', 'above').required() }),
  Joi.object({ who: Joi.valid('role').required(), role: Joi.string().max(100).required() }),
  Joi.object({ who: Joi.valid('person').required(), id: id.required() })
);
/** What each act carries besides its name. */
const ACT_PARTS: Record<(typeof ACT_NAMES)[number], Joi.PartialSchemaMap> = {
  'set status': { statusId: id.required() },
  'set priority': { priority: Joi.valid(...PRIORITIES).required() },
  'set percent': { percent: Joi.number().integer().min(0).max(100).allow(null).required() },
  'set field': {
    fieldId: id.required(),
    value: Joi.alternatives(Joi.number(), Joi.boolean(), Joi.string().max(2_000).allow(''))
      .allow(null)
      .required()
  },
  'set due': { date: expression.required(), time },
  'set start': { date: expression.required(), time },
  assign: { to: assignee.required() },
  unassign: {},
  'add tag': { tag: Joi.string().trim().min(1).max(60).required() },
  'remove tag': { tag: Joi.string().trim().min(1).max(60).required() },
  move: { projectId: id.allow(null).required(), sectionId: id.allow(null).default(null) },
  copy: { projectId: id.allow(null).required(), sectionId: id.allow(null).default(null) },
  comment: { text: Joi.string().allow('').max(5_000).required() },
  'follow-up': {
    name: Joi.string().allow('').trim().max(500).required(),
    description: Joi.string().allow('').max(LONGEST_TEXT).default(''),
    owner: assignee.allow(null).default(null),
    due: expression.required(),
    time,
    priority: Joi.valid(...PRIORITIES)
      .allow(null)
      .default(null)
  },
  'create section': { name: Joi.string().trim().min(1).max(120).required() },
  archive: {},
  bin: {},
  park: { review: expression.required() },
  'update open tasks': { statusId: id.required() },
  'ring another': { ruleId: id.required() }
};
const act = Joi.alternatives().conditional('.act', {
  switch: ACT_NAMES.map((name) => ({
    is: name,
    then: Joi.object({ act: Joi.valid(name).required(), ...ACT_PARTS[name] })
  })),
  otherwise: Joi.forbidden()
});

const doing = Joi.object({
  ...stepBase,
  kind: Joi.valid('do').required(),
  acts: Joi.array().items(act).max(20).required(),
  ask: Joi.object({
    question: Joi.string().allow('').trim().max(300).required(),
    workingDays: Joi.number().integer().min(0).max(90).required(),
    otherwise: Joi.valid('yes', 'no').required()
  })
    .allow(null)
    .default(null)
});
const wait = Joi.object({
  ...stepBase,
  kind: Joi.valid('wait').required(),
  n: n.required(),
  unit: Joi.valid(...UNITS).required(),
  time,
  closedDay: Joi.valid(...CLOSED_DAY_RULES).default('later'),
  regardless: Joi.boolean().default(false)
});
const steps = Joi.array().items(Joi.link('#stepTree')).max(MOST_STEPS).required();
const branch = Joi.object({
  ...stepBase,
  kind: Joi.valid('branch').required(),
  sides: Joi.array()
    .items(
      Joi.object({
        name: Joi.string().allow('').max(120).required(),
        condition: Joi.link('#conditionTree').required(),
        steps
      })
    )
    .max(10)
    .required(),
  otherwise: steps
});
const step = Joi.alternatives()
  .conditional('.kind', {
    switch: [
      { is: 'tell', then: tell },
      { is: 'do', then: doing },
      { is: 'wait', then: wait }
    ],
    otherwise: branch
  })
  .id('stepTree');

/** Which tasks something looks at. */
export const watchSchema = Joi.object({
  projects: Joi.array().items(id).max(500).unique().allow(null).required(),
  tags: Joi.array().items(Joi.string().trim().max(60)).max(50).default([]),
  phases: Joi.array()
    .items(Joi.valid(...PHASES))
    .unique()
    .allow(null)
    .required(),
  priorities: Joi.array()
    .items(Joi.valid(...PRIORITIES))
    .unique()
    .required(),
  seen: Joi.array()
    .items(Joi.valid(...UNSEEN))
    .unique()
    .default([]),
  condition: condition.default(null),
  list: id.allow(null).default(null),
  made: Joi.boolean().default(false)
});

/** The shape of a rule's definition. What keeps it from being turned on is said by the core. */
export const ruleSchema = Joi.object<{
  name: string;
  description: string;
  group: string;
  definition: RuleDefinition;
}>({
  name: Joi.string().allow('').trim().max(200).required(),
  description: Joi.string().allow('').trim().max(2_000).default(''),
  group: Joi.string().allow('').trim().max(60).default(''),
  definition: Joi.object({
    watch: watchSchema.required(),
    leads: Joi.array().items(lead).max(MOST_LEADS).required(),
    steps,
    stop: Joi.object({
      condition: condition.default(null),
      afterNotices: Joi.number().integer().min(1).max(1_000).allow(null).default(null),
      until: date.empty('').allow(null).default(null),
      quiet: Joi.object({
        acknowledged: Joi.valid(...QUIET_FOR).default(DEFAULT_QUIET.acknowledged),
        stuck: Joi.valid(...QUIET_FOR).default(DEFAULT_QUIET.stuck)
      }).default(DEFAULT_QUIET)
    }).default(NO_STOP),
    past: Joi.object({
      down: Joi.valid('leave', 'fold', 'do not ring').default(DEFAULT_PAST.down),
      turnedOn: Joi.valid('do not ring', 'latest at the next opening').default(DEFAULT_PAST.turnedOn),
      created: Joi.valid('latest', 'at once', 'do not ring').default(DEFAULT_PAST.created),
      moved: Joi.valid('latest', 'do not ring').default(DEFAULT_PAST.moved),
      cameTrue: Joi.valid('that day', 'until use-by', 'do not ring').default(DEFAULT_PAST.cameTrue),
      newRecipient: Joi.valid('once', 'do not ring').default(DEFAULT_PAST.newRecipient)
    }).default({ ...DEFAULT_PAST }),
    ifLate: Joi.valid(...LATE_CHOICES).default('keep'),
    firstRun: Joi.string().max(16).empty('').allow(null).default(null),
    inOrder: Joi.boolean().default(true),
    awayStops: Joi.boolean().default(false)
  })
    .required()
    .shared(conditionSchema)
    .shared(step)
});
