import { errorSentence } from '$lib/core/errors.ts';
import { MOST_BYTES } from '$lib/server/in-out/read/decode.ts';
import { newImportToken } from '$lib/server/in-out/imports.ts';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = () => ({
  token: newImportToken(),
  mostBytes: MOST_BYTES,
  tooLarge: errorSentence('import-too-large', { most: '20 MB' })
});
