import { activePeople } from '$lib/server/workspace/choices.ts';
import { many } from '$lib/core/many.ts';
import { fail } from '@sveltejs/kit';
import { CodedError } from '$lib/core/errors.ts';
import { decodeText } from '$lib/server/in-out/read/decode.ts';
import { signedIn } from '$lib/server/web/web.ts';
import type { LeaveSheetRow } from '$lib/server/person/leave-sheet.ts';
import type { Actions, PageServerLoad } from './$types';

const MOST_BYTES = 2 ** 20;

export const load: PageServerLoad = ({ locals }) => ({
  people: activePeople(locals.app)
});

export const actions: Actions = {
  look: async (event) => {
    const form = await event.request.formData();
    const file = form.get('file');
    const otherwise = personIn(form);
    let text = String(form.get('text') ?? '');
    try {
      if (file instanceof File && file.size > 0) {
        if (file.size > MOST_BYTES) throw new CodedError('import-too-large', { most: '1 MB' });
        text = decodeText(new Uint8Array(await file.arrayBuffer())).text;
      }
      if (text.trim() === '') throw new CodedError('import-empty');
      const { files, leaveSheet } = event.locals.app;
      const rows = leaveSheet.look(await files.leave(text), otherwise);
      return { text, otherwise, rows, message: '' };
    } catch (failure) {
      return refused(failure, text, otherwise);
    }
  },
  confirm: async (event) => {
    const { actor } = signedIn(event);
    const form = await event.request.formData();
    const text = String(form.get('text') ?? '');
    const otherwise = personIn(form);
    try {
      const { files, leaveSheet } = event.locals.app;
      const { changeId, result } = leaveSheet.confirm(actor, await files.leave(text), otherwise);
      const left = result.left > 0 ? ` ${many(result.left, 'row was', 'rows were')} skipped.` : '';
      const entered = many(result.added, 'leave was', 'leaves were');
      return { done: `${entered} entered.${left}`, changeId, goto: '/people' };
    } catch (failure) {
      return refused(failure, text, otherwise);
    }
  }
};

function personIn(form: FormData): number | null {
  return Number(form.get('person')) || null;
}

function refused(failure: unknown, text: string, otherwise: number | null) {
  if (!(failure instanceof CodedError)) throw failure;
  return fail(400, { text, otherwise, rows: [] as LeaveSheetRow[], message: failure.message });
}
