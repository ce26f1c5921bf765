import { redirect } from '@sveltejs/kit';
import { SESSION_COOKIE } from '$lib/server/auth/auth.ts';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ locals, cookies }) => {
  locals.app.auth.signOut(cookies.get(SESSION_COOKIE));
  cookies.delete(SESSION_COOKIE, { path: '/' });
  redirect(303, '/sign-in');
};
