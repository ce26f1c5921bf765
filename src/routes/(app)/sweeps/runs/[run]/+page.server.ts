import { error } from '@sveltejs/kit';
import { CodedError } from '$lib/core/errors.ts';
import { sweepRunView } from '$lib/server/sweep/sweep-views.ts';
import type { Actor } from '$lib/server/workspace/commit.ts';
import type { SweepService } from '$lib/server/sweep/sweeps.ts';
import { signedIn } from '$lib/server/web/web.ts';
import { orFail } from '$lib/server/web/forms.ts';
import { SWEEP_SHOWS } from '$lib/view/sweeps.ts';
import type { Actions, PageServerLoad, RequestEvent } from './$types';

export const load: PageServerLoad = (event) => {
  event.depends('early-bell:clock', 'early-bell:sweep-run');
  const { viewer } = signedIn(event);
  const asked = event.url.searchParams;
  const show = SWEEP_SHOWS.find((one) => one === asked.get('show')) ?? 'list';
  const after = Number(asked.get('after')) || 0;
  try {
    return { run: sweepRunView(event.locals.app, Number(event.params.run), { show, after }, viewer) };
  } catch (failure) {
    if (failure instanceof CodedError) error(404, { message: failure.message });
    throw failure;
  }
};

/** Does something with the run, and says what. */
function doing(
  event: RequestEvent,
  done: string,
  act: (sweeps: SweepService, actor: Actor, id: number) => void
) {
  return orFail({}, () => {
    act(event.locals.app.sweeps, signedIn(event).actor, Number(event.params.run));
    return { done };
  });
}

export const actions: Actions = {
  run: async (event) => {
    const meant = (await event.request.formData()).get('meant') === 'yes';
    return doing(event, 'Sweep started.', (sweeps, actor, id) => sweeps.run(actor, id, meant));
  },
  stop: (event) =>
    doing(event, 'Run cancelled. Nothing was changed.', (sweeps, actor, id) => sweeps.stop(actor, id)),
  halt: (event) => doing(event, 'Stopped part-way.', (sweeps, actor, id) => sweeps.halt(actor, id)),
  resume: (event) => doing(event, 'Run continued.', (sweeps, actor, id) => sweeps.resume(actor, id)),
  undo: (event) => doing(event, 'The run is being undone.', (sweeps, actor, id) => sweeps.undo(actor, id))
};
