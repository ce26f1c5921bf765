import Joi from 'joi';
import { CodedError } from '../../core/errors.ts';
import type { Unit } from '../../core/ring/lead.ts';
import type { Zone } from '../../core/time/zone.ts';
import { read, type Read } from '../input/fields.ts';
import type { QuietService } from '../rule/quiet.ts';
import type { Actor, Committed } from '../workspace/commit.ts';
import type { PeopleService } from './people.ts';
import { readChannels, readQuiet } from './read-forms.ts';
import { leaveSchema, type ChannelsInput, type LeaveInput, type QuietInput } from './schema.ts';
import { STANDING_OFFSETS, type StandingLeads } from './standing-leads.ts';

/** A change of what somebody is told, as it is looked at before it is made, and made: plain data. */
export type ToldAct =
  | { name: 'quiet'; input: QuietInput }
  | { name: 'channels'; input: ChannelsInput }
  | { name: 'leave'; input: LeaveInput }
  | { name: 'dropLeave'; leaveId: number }
  | { name: 'remind'; n: number; unit: Unit }
  | { name: 'dropRemind'; id: number }
  | { name: 'hush'; until: string; note: string }
  | { name: 'unhush'; hushId: number };

export type ToldActName = ToldAct['name'];

/** What is asked to make one. */
export interface ToldServices {
  people: PeopleService;
  quiet: QuietService;
  standing: StandingLeads;
}

const remindSchema = Joi.object<{ offset: string }>({
  offset: Joi.valid(...STANDING_OFFSETS.keys())
    .required()
    .messages({ '*': 'Choose how long before.' })
});
const hushSchema = Joi.object<{ until: string; note: string }>({
  until: Joi.string().trim().required().messages({ '*': 'Give the last day.' }),
  note: Joi.string().trim().allow('').max(200).default('')
});
const rowSchema = (field: string) =>
  Joi.object<Record<string, number>>({ [field]: Joi.number().integer().positive().required() });

/** Reads the form of a change. */
export function readToldAct(name: ToldActName, form: FormData): Read<ToldAct> {
  const values = Object.fromEntries(form);
  switch (name) {
    case 'quiet':
      return as(readQuiet(form), (input) => ({ name, input }));
    case 'channels':
      return as(readChannels(form), (input) => ({ name, input }));
    case 'leave':
      return as(read(leaveSchema, values), (input) => ({ name, input }));
    case 'remind':
      return as(read(remindSchema, values), ({ offset }) => ({ name, ...STANDING_OFFSETS.get(offset)! }));
    case 'hush':
      return as(read(hushSchema, values), (input) => ({ name, ...input }));
    case 'dropLeave':
      return as(read(rowSchema('leave'), values), ({ leave }) => ({ name, leaveId: leave! }));
    case 'dropRemind':
      return as(read(rowSchema('id'), values), ({ id }) => ({ name, id: id! }));
    case 'unhush':
      return as(read(rowSchema('hush'), values), ({ hush }) => ({ name, hushId: hush! }));
  }
}

function as<T>(input: Read<T>, act: (value: T) => ToldAct): Read<ToldAct> {
  return input.ok ? { ok: true, value: act(input.value) } : input;
}

/** What is said once it is made. */
export const TOLD_DONE: Readonly<Record<ToldActName, string>> = {
  quiet: 'Saved. It applies now.',
  channels: 'Saved. It applies now.',
  leave: 'Leave saved.',
  dropLeave: 'Leave removed.',
  remind: 'You are reminded of everything of yours.',
  dropRemind: 'This reminder is removed.',
  hush: 'It is quiet. What waited was withdrawn.',
  unhush: 'It rings again.'
};

/**
 * Makes a change of what somebody is told: their own.
 * @param zone in which the days of a hush end
 * @throws CodedError whatever keeps it from being made
 */
export function doToldAct(
  { people, quiet, standing }: ToldServices,
  actor: Actor & { personId: number },
  zone: Zone,
  act: ToldAct
): Committed<unknown> {
  const { personId } = actor;
  switch (act.name) {
    case 'quiet':
      return people.setQuiet(actor, personId, act.input);
    case 'channels':
      return people.setChannels(actor, personId, act.input);
    case 'leave':
      return people.addLeave(actor, personId, act.input);
    case 'dropLeave':
      return people.dropLeave(actor, personId, act.leaveId);
    case 'remind':
      return standing.add(actor, personId, act);
    case 'dropRemind':
      return standing.drop(actor, personId, act.id);
    case 'hush':
      return quiet.hush(actor, { of: 'person', id: personId }, act.until, zone, act.note);
    case 'unhush':
      if (!quiet.isOwnHush(act.hushId, personId)) throw new CodedError('hush-gone');
      return quiet.unhush(actor, act.hushId);
  }
}
