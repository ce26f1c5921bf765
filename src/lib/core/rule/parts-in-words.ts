import { conditionWords, type Names } from './condition-words.ts';
import type { QuietFor, RuleDefinition, Stop } from './model.ts';
import { allSteps } from './step-model.ts';
import { leadWords, stepWords, watchWords } from './read-back.ts';

/** What a rule says, part by part, each line for itself: to be laid beside another version. */
export interface PartInWords {
  part: 'Watch' | 'Ring' | 'Steps' | 'Words' | 'Stop';
  lines: string[];
}

export function partsInWords(definition: RuleDefinition, names: Names): PartInWords[] {
  const { leads, steps, stop, firstRun, ifLate } = definition;
  const tells = allSteps(steps).flatMap((step) => (step.kind === 'tell' ? [step] : []));
  return [
    { part: 'Watch', lines: [watchWords(definition, names)] },
    {
      part: 'Ring',
      lines: [
        ...leads.map((lead) => `${leadWords(lead, names)}${lead.on ? '' : ' (switched off)'}`),
        ...(ifLate === 'keep' ? [] : [`what would come too late: ${ifLate.replace('-', ' ')}`]),
        ...(firstRun === null ? [] : [`not before ${firstRun.replace('T', ' ')}`])
      ]
    },
    {
      part: 'Steps',
      lines: steps.map((step) => `${step.name ? `${step.name}: ` : ''}${stepWords(step, names)}`)
    },
    {
      part: 'Words',
      lines: tells.flatMap(({ subject, body }) => [subject, ...body.split('\n').filter(Boolean)])
    },
    {
      part: 'Stop',
      lines: [
        ...(stop.condition ? [`once ${conditionWords(stop.condition, names)}`] : []),
        ...(stop.afterNotices === null ? [] : [`after ${stop.afterNotices} notices to one person`]),
        ...(stop.until === null ? [] : [`after ${stop.until}`]),
        ...quietWords(stop)
      ]
    }
  ];
}

const KEPT: Record<Exclude<QuietFor, 'nothing'>, string> = {
  overdue: 'overdue notices',
  everything: 'notices'
};

function quietWords({ quiet: { acknowledged, stuck } }: Stop): string[] {
  return [
    ...(acknowledged === 'nothing' ? [] : [`no ${KEPT[acknowledged]} to whoever has acknowledged it`]),
    ...(stuck === 'nothing' ? [] : [`no ${KEPT[stuck]} to its owners while it is stuck on others`])
  ];
}

/** What one version says that another does not, part by part; parts that say the same are left out. */
export function differenceInWords(
  before: RuleDefinition,
  after: RuleDefinition,
  names: Names
): { part: PartInWords['part']; gone: string[]; added: string[] }[] {
  const old = partsInWords(before, names);
  return partsInWords(after, names).flatMap(({ part, lines }, i) => {
    const was = old[i]!.lines;
    const gone = was.filter((line) => !lines.includes(line));
    const added = lines.filter((line) => !was.includes(line));
    return gone.length + added.length > 0 ? [{ part, gone, added }] : [];
  });
}
