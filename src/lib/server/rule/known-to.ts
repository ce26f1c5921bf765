import type { Known } from '../../core/rule/known.ts';
import { knownOf } from '../../core/rule/named.ts';
import { listScopes } from '../engine/list-scopes.ts';
import { namedRecords } from '../engine/names.ts';
import type { Stores } from '../store/all.ts';

/** What is there for rules to name, each kind read when it is first asked for. */
export function knownTo(stores: Stores): Known {
  return knownOf(namedRecords(stores), () => listScopes(stores.savedLists.all()));
}
