import { json } from '@sveltejs/kit';
import type { RequestHandler } from './$types';

/** How far an upload has been read; null when nothing is being read. */
export const GET: RequestHandler = ({ locals, params }) =>
  json({ progress: locals.app.imports.progress(params.token) });
