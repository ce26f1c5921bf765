import { describe, expect, it } from 'vitest';
import {
  workspace,
  eachOnAMonday,
  move,
  add,
  digestOn,
  digestsTo,
  partsOf,
  textOf,
  finishedStatus
} from '../support/digests.ts';

eachOnAMonday();

describe('a table of a digest', () => {
  const COLUMNS = (['task', 'owner', 'due', 'priority'] as const).map((field) => ({ field, caption: '' }));

  it('holds all open tasks under the headings of its groups, each once in the file, also beside its section', async () => {
    add('Grease the hinges', 'Nora', { dueDate: '2026-03-09', priority: 'high' });
    add('Write the report', 'Tess', { dueDate: '2026-02-27' });
    add('Paint the shed', null);
    add('Done', 'Tess', { dueDate: '2026-02-27', statusId: finishedStatus() });
    const id = digestOn({
      sections: ['overdue', 'all open'],
      table: { list: null, order: 'due', group: 'owner' },
      columns: COLUMNS,
      attach: ['table']
    });
    await move('2026-03-02T23:00:00Z');
    const [mail] = await digestsTo('Ines');
    expect(mail!.subject).toBe('Overseers: 1 overdue');
    const [run] = workspace.container.stores.digests.newest(id, 1);
    expect(run!.stages).toMatchObject({ found: 3, shown: 3 });
    const text = await textOf(mail!);
    const table = text.slice(text.indexOf('ALL OPEN TASKS (3)'));
    expect(table.match(/^(Nora|Tess|No owner) \(1\)$|^• .*/gm)).toEqual([
      'Nora (1)',
      '• Grease the hinges',
      'Tess (1)',
      '• Write the report',
      'No owner (1)',
      '• Paint the shed'
    ]);
    expect(table).toContain('Nora · Monday 9 March 2026 · high');
    const { html, files } = await partsOf(mail!);
    for (const caption of ['Task', 'Owner', 'Due', 'Priority']) expect(html).toContain(`>${caption}</th>`);
    expect(files[0]!.text.match(/Write the report/g)).toHaveLength(1);
  });

  it('holds what a saved list shows and the digest looks at; only a list that everybody has is named', async () => {
    const { container, coordinator } = workspace;
    add('Urgent one', 'Nora', { priority: 'pressing' });
    add('Ordinary one', 'Nora');
    add('Urgent and done', 'Nora', { priority: 'pressing', statusId: finishedStatus() });
    const save = (name: string, shared: boolean) =>
      container.savedLists.save(coordinator, { name, query: 'priority=pressing', shared, counted: false })
        .result;
    const of = (list: number) => ({
      sections: ['all of a list' as const],
      table: { list, order: 'task' as const, group: 'none' as const },
      columns: COLUMNS
    });
    const shared = digestOn(of(save('Fires', true)), 'Shared');
    const own = digestOn(of(save('Between us', false)), 'Own');
    const { people } = workspace;
    const seen = (id: number) =>
      container.digests.preview(coordinator, id, people.Ines!, Date.parse('2026-03-02T19:00Z')).text;
    expect(seen(shared)).toContain('ALL TASKS OF “FIRES” (1)\n\n• Urgent one');
    expect(seen(shared)).not.toContain('Ordinary');
    expect(seen(own)).toContain('ALL TASKS OF A LIST (1)');
    expect(seen(own).toLowerCase()).not.toContain('between us');
    // What stands apart is in the list that shows it, and a list of everything shows what is finished.
    const everything = container.savedLists.save(coordinator, {
      ...{ name: 'Everything', query: 'show=all', shared: true, counted: false }
    });
    expect(seen(digestOn(of(everything.result), 'Everything'))).toContain('“EVERYTHING” (3)');
  });

  it('cannot be of a list that is gone or that no digest can use', () => {
    const { container, coordinator } = workspace;
    const table = { list: 99, order: 'due', group: 'none' } as const;
    expect(() => digestOn({ sections: ['all of a list'], table })).toThrow('was not found');
    const { result: list } = container.savedLists.save(coordinator, {
      ...{ name: 'Words', query: 'text=harbour', shared: true, counted: false }
    });
    expect(() => digestOn({ sections: ['all of a list'], table: { ...table, list } })).toThrow(
      'A digest cannot use that saved list: it searches for words'
    );
  });
});
