import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { openWorkspace, type TestWorkspace } from '../support/workspace.ts';

let workspace: TestWorkspace;

beforeEach(async () => {
  workspace = await openWorkspace('2026-03-05T07:40:00Z');
});
afterEach(() => workspace.close());

describe('a sheet of people', () => {
  const sheet = (text: string) => workspace.container.peopleSheet.look(workspace.coordinator, text, true);

  it('with thousands of managers one above the other, or one address twice, is refused row by row before it is taken in', () => {
    const row = (name: string, email: string, manager = '') => `${name},${email},${manager},Europe/Lisbon`;
    const head = 'name,email,manager,zone';
    const chain = Array.from({ length: 3_000 }, (_, i) =>
      row(`P${i}`, `p${i}@x.example`, i > 0 ? `P${i - 1}` : '')
    );
    const problems = (rows: string[]) => sheet([head, ...rows].join('\n')).map(({ problem }) => problem);
    const said = problems(chain);
    expect(said.slice(0, 101).every((one) => one === null)).toBe(true);
    expect(new Set(said.slice(101))).toEqual(
      new Set(['They would have more than 100 managers, one above the other.'])
    );
    expect(problems([row('A', 'same@x.example'), row('B', 'Same@x.example')])).toEqual([
      ...[null, 'Same address as in line 2.']
    ]);
    expect(problems([row('R', 'r@x.example', 'S'), row('S', 's@x.example', 'R')])).toEqual([
      ...['The managers form a circle.', 'The managers form a circle.']
    ]);
    // What is no name but a book is not said back whole.
    expect(sheet(`${head}\n${row('x'.repeat(500_000), 'x@x.example')}`)[0]!.name).toHaveLength(200);
  });

  it('that was taken out and read back changes nothing', () => {
    const { peopleSheet, stores, people } = workspace.container;
    people.edit(workspace.coordinator, workspace.people.Nora!, {
      ...stores.people.byId(workspace.people.Nora!)!,
      name: '=HYPERLINK("x")',
      phone: '+1 902 555 0143',
      groups: ['Field crew', 'Night watch']
    });
    const before = stores.people.all();
    const text = peopleSheet.write();
    expect(text).toContain(`'=HYPERLINK`);
    expect(peopleSheet.look(workspace.coordinator, text, true).map(({ problem }) => problem)).toEqual(
      before.map(() => null)
    );
    peopleSheet.confirm(workspace.coordinator, text, true);
    expect(stores.people.all()).toEqual(before);
  });

  it('adds and changes, with managers that stand below', () => {
    const { peopleSheet, stores, committer } = workspace.container;
    const { changeId, result } = peopleSheet.confirm(
      workspace.coordinator,
      'Name,Email,Zone,Calendar,Manager,Groups\r\nAva,ava@test.example,Europe/Lisbon,Six days,Ben,Crew; Office\r\nBen,,Asia/Muscat,,Ines,\r\nNora F.,NORA@test.example,,,,\r\n',
      false
    );
    expect(result).toEqual({ added: 2, changed: 1, left: 0 });
    const byName = new Map(stores.people.all().map((person) => [person.name, person]));
    expect(byName.get('Ava')).toMatchObject({ managerId: byName.get('Ben')!.id, groups: ['Crew', 'Office'] });
    expect(byName.get('Nora F.')).toMatchObject({ id: workspace.people.Nora, zone: 'America/Halifax' });
    committer.undo(changeId, workspace.people.Ines!);
    expect(stores.people.all().map(({ name }) => name)).toEqual(['Ines', 'Meera', 'Nora', 'Salim', 'Tess']);
    expect(stores.people.groups()).toEqual([]);
  });

  it.each([
    ['Ava,,Atlantis/Centre,,', 'There is no time zone'],
    ['Ava,not an address,Europe/Lisbon,,', 'not a mail address'],
    ['Ava,,Europe/Lisbon,Nowhere,', 'There is no calendar “Nowhere”'],
    ['Ava,,Europe/Lisbon,,Nobody', 'No person is named “Nobody”.'],
    ['Ava,,Europe/Lisbon,,Ava', 'own manager'],
    ['Ines,,Europe/Lisbon,,Tess', 'The managers form a circle.'],
    ['Ava,,,,', 'Choose a time zone'],
    [',,Europe/Lisbon,,', 'Give the person a name'],
    ['Nora,,,,\r\nNora,,,,', 'Same person as in line 2.']
  ])('names the row that does not fit: %s', (row, problem) => {
    const rows = sheet(`name,email,zone,calendar,manager\r\n${row}\r\n`);
    expect(rows.at(-1)!.problem).toContain(problem);
  });

  it('gives roles only for an administrator', () => {
    const { peopleSheet } = workspace.container;
    const text = 'name,zone,role,active\r\nNora,,manager,\r\nTess,,,no\r\nSalim,,owner,yes\r\n';
    expect(
      peopleSheet.look(workspace.coordinator, text, false).map(({ problem }) => problem?.slice(0, 21) ?? null)
    ).toEqual(['Only an administrator', 'Only an administrator', null]);
    expect(peopleSheet.look(workspace.coordinator, text, true).map(({ problem }) => problem)).toEqual([
      null,
      null,
      null
    ]);
  });

  it('is refused whole when it has no names or no rows', () => {
    expect(() => sheet('who,zone\r\nA,UTC\r\n')).toThrow(expect.objectContaining({ code: 'people-columns' }));
    expect(() => sheet('name,zone\r\n')).toThrow(expect.objectContaining({ code: 'import-header-only' }));
  });
});
