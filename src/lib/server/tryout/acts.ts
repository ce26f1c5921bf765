import { CodedError } from '../../core/errors.ts';
import type { BulkService, LeftOut } from '../task/bulk.ts';
import { checkUndoPreview, type ChangeServices } from '../record/change-views.ts';
import type { Committed, Undone } from '../workspace/commit.ts';
import type { HandOverService } from '../person/hand-over.ts';
import type { HandRings } from '../rule/hand-rings.ts';
import { signedInAs, undoerAs, type SignedIn } from '../workspace/signed-in.ts';
import type { Asked } from './asked.ts';

/** What is asked to do them. */
export type ActServices = ChangeServices & {
  bulk: BulkService;
  handOver: HandOverService;
  handRings: HandRings;
};

/** What comes of each act that may be done in a thread: plain data. */
export interface Outcomes {
  'many tasks': Committed<{ changed: number; left: LeftOut[] }>;
  'by hand': ReturnType<HandRings['ringOver']>;
  undo: Committed<Undone>;
  'hand over': Committed<void>;
}
export type ActName = keyof Outcomes;
export type Act<N extends ActName = ActName> = Extract<Asked, { act: N }>;

/** How each is done. @param stamp of what was said of it beforehand; null where nobody had looked */
const DOING: {
  [N in ActName]: (app: ActServices, who: SignedIn, act: Act<N>, stamp: string | null) => Outcomes[N];
} = {
  'many tasks': ({ bulk }, { actor, viewer, sight }, { input }, stamp) =>
    bulk.apply(actor, input, viewer, sight, stamp),
  'by hand': ({ handRings }, { actor, viewer }, { ruleId, taskIds }, stamp) =>
    handRings.ringOver(actor, ruleId, taskIds, { stamp, viewer }),
  undo: (app, who, { changeId }, stamp) => {
    const undoer = undoerAs(who);
    checkUndoPreview(app, changeId, who.viewer, undoer, stamp);
    return app.undo.undo(changeId, undoer);
  },
  'hand over': ({ handOver }, { actor, viewer }, { personId, input }, stamp) =>
    handOver.applyLookedAt(actor, personId, input, viewer, stamp)
};

/**
 * Does an act, if it would still do what was said of it.
 * @throws CodedError `preview-stale`, `person-gone`, or what keeps it from being done
 */
export function doAct<N extends ActName>(
  app: ActServices,
  personId: number,
  act: Act<N>,
  stamp: string | null
): Outcomes[N] {
  const person = app.stores.people.byId(personId);
  if (!person) throw new CodedError('person-gone');
  return DOING[(act as Act).act as N](app, signedInAs(person, app.stores), act, stamp);
}
