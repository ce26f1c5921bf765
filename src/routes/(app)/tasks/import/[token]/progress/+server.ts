import { json } from '@sveltejs/kit';
import type { RequestHandler } from './$types';

/** How far an upload is read, checked or written; null when it is not. */
export const GET: RequestHandler = ({ locals, params }) =>
  json({ progress: locals.app.imports.progress(params.token) });
