import { json, type RequestEvent } from '@sveltejs/kit';
import { CodedError } from '../core/errors.ts';
import { zoneNamed, type Zone } from '../core/time/zone.ts';
import type { Person } from './store/people.ts';
import type { Actor } from './service/commit.ts';

/** Whoever is signed in; the frame lets nobody else come this far. */
export function signedIn({ locals }: Pick<RequestEvent, 'locals'>): {
  person: Person;
  zone: Zone;
  actor: Actor;
} {
  const { person } = locals;
  if (!person) throw new TypeError('this route is not public');
  return { person, zone: zoneNamed(person.zone), actor: { personId: person.id, source: 'person' } };
}

/** Runs `work` and answers JSON; a coded error becomes its sentence. */
export async function answerJson(work: () => unknown): Promise<Response> {
  try {
    return json(await work());
  } catch (error) {
    if (!(error instanceof CodedError)) throw error;
    return json({ message: error.message, code: error.code }, { status: 400 });
  }
}
