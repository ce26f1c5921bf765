import type { Cookies } from '@sveltejs/kit';
import { SESSION_COOKIE, SESSION_SECONDS } from './auth.ts';

/** Puts a session into the browser: out of reach of scripts, and never sent along from other sites. */
export function setSessionCookie(cookies: Cookies, url: URL, token: string): void {
  cookies.set(SESSION_COOKIE, token, {
    path: '/',
    httpOnly: true,
    sameSite: 'lax',
    secure: url.protocol === 'https:',
    maxAge: SESSION_SECONDS
  });
}
