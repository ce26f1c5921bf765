import initial from './migrations/0001_initial.sql?raw';
import people from './migrations/0002_people.sql?raw';
import tasks from './migrations/0003_tasks.sql?raw';
import rules from './migrations/0004_rules.sql?raw';
import wholeRules from './migrations/0005_whole_rules.sql?raw';
import ruleGroups from './migrations/0006_rule_groups.sql?raw';
import deliveries from './migrations/0007_deliveries.sql?raw';
import actLinks from './migrations/0008_act_links.sql?raw';
import rungWhen from './migrations/0009_rung_when.sql?raw';
import channels from './migrations/0010_channels.sql?raw';
import digests from './migrations/0011_digests.sql?raw';
import lateWork from './migrations/0012_late_work.sql?raw';
import sweeps from './migrations/0013_sweeps.sql?raw';
import retention from './migrations/0014_retention.sql?raw';
import nothingLost from './migrations/0015_nothing_lost.sql?raw';
import wholeTasks from './migrations/0016_whole_tasks.sql?raw';
import quietIsQuiet from './migrations/0017_quiet_is_quiet.sql?raw';

/** Migrations in order. A file that has been released is never edited: a change is a new file. */
export const MIGRATIONS: readonly { name: string; sql: string }[] = [
  { name: '0001_initial', sql: initial },
  { name: '0002_people', sql: people },
  { name: '0003_tasks', sql: tasks },
  { name: '0004_rules', sql: rules },
  { name: '0005_whole_rules', sql: wholeRules },
  { name: '0006_rule_groups', sql: ruleGroups },
  { name: '0007_deliveries', sql: deliveries },
  { name: '0008_act_links', sql: actLinks },
  { name: '0009_rung_when', sql: rungWhen },
  { name: '0010_channels', sql: channels },
  { name: '0011_digests', sql: digests },
  { name: '0012_late_work', sql: lateWork },
  { name: '0013_sweeps', sql: sweeps },
  { name: '0014_retention', sql: retention },
  { name: '0015_nothing_lost', sql: nothingLost },
  { name: '0016_whole_tasks', sql: wholeTasks },
  { name: '0017_quiet_is_quiet', sql: quietIsQuiet }
];
