import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { blankDigest, type DigestDefinition } from '../../src/lib/core/digest/model.ts';
import {
  MANAGER,
  lead,
  openWorkspace,
  received,
  ruleOf,
  ruleOn,
  taskInput,
  type TestWorkspace
} from '../support/workspace.ts';

/** Taking a person out of everything that is kept. */
let workspace: TestWorkspace;
beforeEach(async () => (workspace = await openWorkspace('2026-03-05T07:40:00Z')));
afterEach(() => workspace.close());

/** Every value of every table. */
function everything(): string[] {
  const { db } = workspace.container;
  const tables = db.prepare<[], string>(`SELECT name FROM sqlite_schema WHERE type = 'table'`).pluck().all();
  return tables
    .flatMap((table) => db.prepare<[], Record<string, unknown>>(`SELECT * FROM "${table}"`).all())
    .flatMap((row) => Object.values(row).map(String));
}

/** She is told of her work, her manager is told of her, and a digest with a table of it goes to him. */
async function muchIsWritten(): Promise<void> {
  const { container, coordinator, people } = workspace;
  const words = { subject: '‹task›, ‹first name›', body: 'Dear ‹full name›, ‹task› belongs to ‹owner›.' };
  ruleOn(workspace, ruleOf([lead(-1, 'day')], words));
  ruleOn(workspace, ruleOf([lead(-1, 'day')], { ...words, to: [MANAGER] }));
  const definition: DigestDefinition = {
    ...blankDigest(),
    when: {
      ...{ by: 'schedule', rrule: 'FREQ=DAILY', start: '2026-03-05' },
      ...{ time: '09:00', zone: 'UTC', closedDay: 'as-is' }
    },
    to: [{ who: 'person', id: people.Ines! }],
    about: 'everybody',
    columns: [...blankDigest().columns, { field: 'owner', caption: '' }],
    attach: ['table', 'calendar']
  };
  const digest = container.digests.add(coordinator, { name: 'All work', description: '', definition });
  container.digests.turn(coordinator, digest.result, 'on');
  const task = { name: 'Grease the winch', ownerId: people.Nora!, dueDate: '2026-03-10' };
  container.tasks.add(coordinator, taskInput(task));
  const day = { fromDate: '2026-03-20', fromTime: null, untilDate: '2026-03-21', untilTime: null };
  container.people.addLeave(coordinator, people.Nora!, { ...day, standInId: null, note: 'a hospital stay' });
  await container.engine.moveClock(Date.parse('2026-03-11T00:00Z'));
}

describe('an erased person', () => {
  it.each(['Nora', `Nora "Non" O'Dell-Åse & Co`])('called %s is in nothing that is kept', async (name) => {
    const { container, people } = workspace;
    const { people: service, erasing, db, stores } = container;
    const nora = people.Nora!;
    service.edit(workspace.coordinator, nora, { ...stores.people.byId(nora)!, name });
    await muchIsWritten();
    // She had another name when that was written, and has this one since.
    service.edit(workspace.coordinator, nora, { ...stores.people.byId(nora)!, name: 'Leonor Vale' });
    expect((await received(workspace)).map(({ to }) => to[0]).sort()).toEqual([
      ...Array.from({ length: 7 }, () => 'ines@test.example'),
      'nora@test.example'
    ]);
    expect(() => erasing.erase(people.Ines!, nora)).toThrow(
      expect.objectContaining({ code: 'person-still-active' })
    );
    const own = { personId: nora, source: 'person' as const };
    container.deskThings.keep(own, 'a private line');
    container.standing.add(own, nora, { n: -1, unit: 'day' });
    service.deactivate(workspace.coordinator, nora);
    const sought =
      /a private line|(?<!\p{L})(Nora|Dell|Åse|Leonor|Vale)(?!\p{L})|nora@test\.example|a hospital stay/u;
    expect(everything().filter((value) => sought.test(value)).length).toBeGreaterThan(10);
    erasing.erase(people.Ines!, nora);
    expect(everything().filter((value) => sought.test(value))).toEqual([]);
    expect(stores.people.byId(nora)).toMatchObject({
      name: `Erased person ${nora}`,
      erased: true,
      active: false
    });
    // The journal is closed again.
    expect(() => db.exec('DELETE FROM journal')).toThrow('append-only');
  });
});
