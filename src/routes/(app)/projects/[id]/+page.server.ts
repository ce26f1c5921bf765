import { activePeople, calendarChoices } from '$lib/server/workspace/choices.ts';
import { error, fail, type RequestEvent } from '@sveltejs/kit';
import { errorSentence } from '$lib/core/errors.ts';
import { read } from '$lib/server/input/fields.ts';
import { memberSchema, projectSchema, sectionSchema } from '$lib/server/project/schema.ts';
import { doneToProject } from '$lib/server/record/change-views.ts';
import { projectDetail } from '$lib/server/project/project-views.ts';
import { zoneChoices } from '$lib/server/person/zone-choices.ts';
import { idOf, orFail } from '$lib/server/web/forms.ts';
import { hushActions, hushView } from '$lib/server/web/hush.ts';
import { signedIn, undoerOf } from '$lib/server/web/web.ts';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = (event) => {
  event.depends('early-bell:tasks');
  const { viewer, sight, may } = signedIn(event);
  const { app } = event.locals;
  const project = projectDetail(app, Number(event.params.id), viewer, sight);
  if (!project) error(404, { message: errorSentence('project-gone') });
  return {
    project,
    lately: doneToProject(app, project.row.id, viewer, undoerOf(event)),
    hush: hushView(event, 'project', project.row.id),
    hand: may('make rules') ? app.handRings.buttons().filter(({ places }) => places.includes('project')) : [],
    zones: zoneChoices(app.clock.now()),
    calendars: calendarChoices(app),
    people: activePeople(app)
  };
};

type Event = RequestEvent<{ id: string }>;

/** One of the small acts on members and sections. */
function act(done: string, work: (event: Event, id: number, form: FormData) => { changeId: number }) {
  return async (event: Event) => {
    const form = await event.request.formData();
    return orFail({ part: 'small' }, () => {
      const { changeId } = work(event, Number(event.params.id), form);
      return { done, changeId };
    });
  };
}

export const actions: Actions = {
  ...hushActions('project'),
  save: async (event) => {
    const { actor } = signedIn(event);
    const form = await event.request.formData();
    const values = {
      name: String(form.get('name') ?? ''),
      description: String(form.get('description') ?? ''),
      zone: String(form.get('zone') ?? ''),
      calendarId: idOf(form, 'calendarId'),
      pinned: form.get('pinned') === 'on',
      state: String(form.get('state') ?? 'open'),
      register: form.get('register') === 'on'
    };
    const input = read(projectSchema, values);
    if (!input.ok) return fail(400, { values, errors: input.errors });
    return orFail(values, () => {
      const { changeId } = event.locals.app.projects.edit(actor, Number(event.params.id), input.value);
      return { done: `“${input.value.name}” was saved.`, changeId };
    });
  },
  member: async (event) => {
    const { actor } = signedIn(event);
    const form = await event.request.formData();
    const input = read(memberSchema, { personId: form.get('personId'), role: form.get('role') ?? '' });
    if (!input.ok) return fail(400, { values: null, errors: input.errors });
    return orFail(null, () => {
      const { changeId } = event.locals.app.projects.saveMember(actor, Number(event.params.id), input.value);
      return { done: 'Members changed.', changeId };
    });
  },
  dropMember: act('Member removed.', (event, id, form) =>
    event.locals.app.projects.dropMember(signedIn(event).actor, id, idOf(form, 'member') ?? 0)
  ),
  section: async (event) => {
    const { actor } = signedIn(event);
    const form = await event.request.formData();
    const input = read(sectionSchema, { name: form.get('name') ?? '' });
    if (!input.ok) return fail(400, { values: null, errors: input.errors });
    return orFail(null, () => {
      const { changeId } = event.locals.app.projects.saveSection(
        actor,
        Number(event.params.id),
        idOf(form, 'section'),
        input.value.name
      );
      return { done: `The section “${input.value.name}” was saved.`, changeId };
    });
  },
  moveSection: act('Sections reordered.', (event, id, form) =>
    event.locals.app.projects.moveSection(
      signedIn(event).actor,
      id,
      idOf(form, 'section') ?? 0,
      form.get('by') === 'up' ? -1 : 1
    )
  ),
  dropSection: act('Section removed. Its tasks remain.', (event, id, form) =>
    event.locals.app.projects.dropSection(signedIn(event).actor, id, idOf(form, 'section') ?? 0)
  )
};
