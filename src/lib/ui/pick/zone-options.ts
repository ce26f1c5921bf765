import { zoneNames } from '$lib/core/time/zone-names.ts';
import { plainOptions } from './option.ts';

/** The zones that this browser knows, so that no page carries four hundred names. */
export const zoneOptions = () => plainOptions(zoneNames());
