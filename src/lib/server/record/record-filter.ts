import { CodedError } from '../../core/errors.ts';
import { parseDay } from '../../core/time/day.ts';
import type { Viewer } from '../workspace/viewer.ts';
import type { Workspace } from '../workspace/workspace.ts';

/** What Outbox and Journal can both be asked for. Instants on the workspace clock. */
export interface RecordFilter {
  ruleId: number | null;
  personId: number | null;
  text: string;
  /** In `[from, until)`. */
  from: number | null;
  until: number | null;
}

/** A filter out of an address; what cannot be read asks for nothing. Dates are days on the viewer's wall. */
export function recordFilter(parameters: URLSearchParams, { zone }: Viewer): RecordFilter {
  const id = (name: string) => {
    const value = Number(parameters.get(name));
    return Number.isSafeInteger(value) && value !== 0 ? value : null;
  };
  const day = (name: string) => {
    try {
      return parseDay(parameters.get(name) ?? '');
    } catch (failure) {
      // What is no day, or none that can be counted, asks for nothing.
      if (failure instanceof CodedError) return null;
      throw failure;
    }
  };
  const [from, until] = [day('from'), day('until')];
  return {
    ruleId: id('rule'),
    personId: id('person'),
    text: (parameters.get('text') ?? '').trim().slice(0, 200),
    from: from === null ? null : zone.startOfDay(from),
    until: until === null ? null : zone.endOfDay(until)
  };
}

/** Rules and people that a record can be asked for. */
export function recordChoices({ stores }: Workspace) {
  const named = ({ id, name }: { id: number; name: string }) => ({ id, name });
  return {
    rules: stores.rules.made().map(named),
    people: stores.people
      .all()
      .filter(({ erased }) => !erased)
      .map(named)
  };
}

/** Rows of a page on screen, and of one reading for a file. */
export const PAGE = 50;
export const FILE_PAGE = 2_000;
