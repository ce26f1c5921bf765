import type { RuleDefinition } from '../model.ts';
import { allSteps } from '../step-model.ts';
import type { Names } from './condition-words.ts';
import { leadWords } from './lead-words.ts';
import { limitLines, sentenceText, stepLines } from './sentence.ts';
import { watchWords } from './watch-words.ts';

/** What a rule says, part by part, each line for itself: to be compared with another version. */
export interface PartInWords {
  part: 'Watch' | 'Ring' | 'Steps' | 'Text' | 'Stop';
  lines: string[];
}

export function partsInWords(definition: RuleDefinition, names: Names): PartInWords[] {
  const { leads, steps } = definition;
  const tells = allSteps(steps).flatMap((step) => (step.kind === 'tell' ? [step] : []));
  const { ring, stop } = limitLines(definition, names);
  return [
    { part: 'Watch', lines: [watchWords(definition, names)] },
    {
      part: 'Ring',
      lines: [...leads.map((lead) => `${leadWords(lead, names, leads)}${lead.on ? '' : ' (off)'}`), ...ring]
    },
    {
      part: 'Steps',
      lines: stepLines(definition, names).map(
        (parts, i) => `${steps[i]!.name ? `${steps[i]!.name}: ` : ''}${sentenceText(parts)}`
      )
    },
    {
      part: 'Text',
      lines: tells.flatMap(({ subject, body }) => [subject, ...body.split('\n').filter(Boolean)])
    },
    { part: 'Stop', lines: stop }
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
