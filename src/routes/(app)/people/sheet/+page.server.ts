import { many } from '$lib/core/many.ts';
import { fail } from '@sveltejs/kit';
import { CodedError } from '$lib/core/errors.ts';
import { decodeText } from '$lib/server/in-out/read/decode.ts';
import { signedIn } from '$lib/server/web/web.ts';
import type { SheetRow } from '$lib/server/person/people-sheet.ts';
import type { Actions, PageServerLoad } from './$types';

const MOST_BYTES = 2 ** 20;

export const load: PageServerLoad = () => ({});

export const actions: Actions = {
  look: async (event) => {
    const form = await event.request.formData();
    const file = form.get('file');
    let text = String(form.get('text') ?? '');
    try {
      if (file instanceof File && file.size > 0) {
        if (file.size > MOST_BYTES) throw new CodedError('import-too-large', { most: '1 MB' });
        text = decodeText(new Uint8Array(await file.arrayBuffer())).text;
      }
      if (text.trim() === '') throw new CodedError('import-empty');
      const { actor, may } = signedIn(event);
      return { text, rows: event.locals.app.peopleSheet.look(actor, text, may('give access')), message: '' };
    } catch (failure) {
      return refused(failure, text);
    }
  },
  confirm: async (event) => {
    const { actor, may } = signedIn(event);
    const text = String((await event.request.formData()).get('text') ?? '');
    try {
      const { changeId, result } = event.locals.app.peopleSheet.confirm(actor, text, may('give access'));
      const left = result.left > 0 ? ` ${many(result.left, 'row was', 'rows were')} skipped.` : '';
      return { done: `${result.added} added, ${result.changed} changed.${left}`, changeId, goto: '/people' };
    } catch (failure) {
      return refused(failure, text);
    }
  }
};

function refused(failure: unknown, text: string) {
  if (!(failure instanceof CodedError)) throw failure;
  return fail(400, { text, rows: [] as SheetRow[], message: failure.message });
}
