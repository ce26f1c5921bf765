// A workspace of very many tasks, the same at every start: for the bench and for the browser tests.
import type { Container } from '../src/lib/server/container.ts';
import { PRIORITIES } from '../src/lib/core/task/model.ts';
import { MS_PER_DAY, formatDay } from '../src/lib/core/time/day.ts';
import { chanceFrom } from './bench/measure.ts';

const PLACES = ['quay', 'reef', 'estuary', 'harbour', 'jetty', 'lagoon', 'slipway', 'headland'];
const WORKS = [
  'Calibrate the gauge',
  'Renew the permit',
  'Ship the samples',
  'Inspect the ladder',
  'Read the logger'
];

/** How much of each; the first person is the administrator. */
export interface Amounts {
  tasks: number;
  people: number;
  projects: number;
}

/** Fills an empty workspace; dates lie around its clock. */
export function fillWorkspace(
  { committer, tasks, taskActs, stores, clock }: Container,
  amounts: Amounts
): void {
  const chance = chanceFrom(11);
  const pick = <T>(items: readonly T[]): T => items[Math.floor(chance() * items.length)]!;
  committer.commit({ personId: null, source: 'set-up' }, 'many tasks', (writer) => {
    const calendar = writer.insert('calendar', {
      name: 'Five days',
      week: JSON.stringify(
        Object.fromEntries(['mon', 'tue', 'wed', 'thu', 'fri'].map((day) => [day, ['09:00-17:00']]))
      )
    });
    [
      'To do:waiting to start',
      'Under way:under way',
      'Waiting:stuck on others',
      'Finished:finished',
      'Closed:closed'
    ].forEach((status, position) => {
      const [name = '', phase = ''] = status.split(':');
      writer.insert('status', { name, phase, position });
    });
    stores.settings.saveWorkspace(writer, {
      name: 'Many tasks',
      zone: 'Europe/Lisbon',
      calendarId: calendar,
      noticeTime: '09:00',
      endOfDay: 'midnight',
      mailFromName: 'Many tasks',
      mailFromAddress: 'bench@bench.example'
    });
    for (let i = 0; i < amounts.people; i++)
      writer.insert('person', {
        name: `Person ${i}`,
        email: `p${i}@bench.example`,
        zone: 'Europe/Lisbon',
        calendar_id: calendar,
        role: i === 0 ? 'administrator' : 'owner'
      });
    for (let i = 0; i < amounts.projects; i++) writer.insert('project', { name: `Project ${i}` });
  });
  const today = Math.floor(clock.now() / MS_PER_DAY);
  committer.commit({ personId: 1, source: 'import' }, 'many tasks', (writer) => {
    for (let i = 0; i < amounts.tasks; i++) {
      const finished = chance() < 0.4;
      const id = tasks.insert(writer, {
        name: `${pick(WORKS)}, ${pick(PLACES)} ${i}`,
        description: chance() < 0.3 ? `Ask at the ${pick(PLACES)} first.` : '',
        projectId: chance() < 0.95 ? 1 + Math.floor(chance() * amounts.projects) : null,
        ownerId: chance() < 0.97 ? 1 + Math.floor(chance() * amounts.people) : null,
        statusId: finished ? 4 + Math.floor(chance() * 2) : 1 + Math.floor(chance() * 3),
        priority: pick(PRIORITIES),
        dueDate: chance() < 0.05 ? null : formatDay(today + Math.floor(chance() * 400) - 250),
        dueTime: null,
        startDate: null,
        startTime: null,
        private: false,
        tags: chance() < 0.02 ? ['urgent'] : [],
        rhythm: null
      });
      if (chance() < 0.03) taskActs.setAside(writer, stores.tasks.byId(id)!, pick(['archived', 'binned']));
    }
  });
}
