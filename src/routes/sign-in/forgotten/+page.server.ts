import { fail } from '@sveltejs/kit';
import { read } from '$lib/server/input/fields.ts';
import { forgottenSchema } from '$lib/server/account/schema.ts';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = () => ({});

export const actions: Actions = {
  default: async ({ request, locals }) => {
    const email = String((await request.formData()).get('email') ?? '');
    const input = read(forgottenSchema, { email });
    if (!input.ok) return fail(400, { email, error: Object.values(input.errors)[0]!, asked: false });
    locals.app.accounts.forgotten(input.value.email);
    return { email, error: '', asked: true };
  }
};
