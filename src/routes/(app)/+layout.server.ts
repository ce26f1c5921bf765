import { redirect } from '@sveltejs/kit';
import { frameView } from '$lib/server/workspace/frame.ts';
import type { LayoutServerLoad } from './$types';

export const load: LayoutServerLoad = ({ locals, depends }) => {
  depends('early-bell:clock');
  if (!locals.person) redirect(303, '/sign-in');
  return { frame: frameView(locals.app, locals.person) };
};
