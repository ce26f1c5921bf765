import { describe, expect, it } from 'vitest';
import { ambiguousExample, findDateOrder, readDateCell, readTimeCell } from './dates.ts';
import { decodeText } from './decode.ts';
import { guessMapping } from './columns.ts';

describe('dates of a column', () => {
  it.each([
    [['03/04/2026', '25/04/2026'], 'day-first'],
    [['03/04/2026', '04/25/2026'], 'month-first'],
    [['03/04/2026', '05/06/2026'], 'undecided'],
    [['25/04/2026', '04/25/2026'], 'undecided'],
    [['2026-04-03', '04/04/2026'], 'no matter'],
    [['', 'soon'], 'no matter'],
    [['3.4.2026 16:00', '25.4.2026 9:30'], 'day-first']
  ])('%j are %s', (texts, order) => {
    expect(findDateOrder(texts)).toBe(order);
  });

  it('show the one that can be read two ways', () => {
    expect(ambiguousExample(['25/04/2026', '04/04/2026', '03/04/2026'])).toBe('03/04/2026');
  });

  it('are read in the order that was found, with their time', () => {
    expect(readDateCell('03/04/2026', 'day-first')).toEqual({ date: '2026-04-03', time: null });
    expect(readDateCell('03/04/2026', 'month-first')).toEqual({ date: '2026-03-04', time: null });
    expect(readDateCell('2026-3-4 16:00', 'day-first')).toEqual({ date: '2026-03-04', time: '16:00' });
    expect(readTimeCell('9.30')).toBe('09:30');
  });

  it.each([
    ['31/02/2026', 'date-impossible'],
    ['2026-13-01', 'date-impossible'],
    ['01/01/1899', 'date-out-of-range'],
    ['45992', 'date-format'],
    ['2026-03-04 25:00', 'time-format']
  ])('%s is refused as it was written', (text, code) => {
    expect(() => readDateCell(text, 'day-first')).toThrow(expect.objectContaining({ code }));
  });
});

describe('the bytes of a file', () => {
  it('that is no text are named for what they look like', () => {
    const refused =
      (...bytes: number[]) =>
      () =>
        decodeText(Uint8Array.from(bytes));
    expect(refused(0x50, 0x4b, 0x03, 0x04)).toThrow('a zipped file or a workbook');
    expect(refused(0x25, 0x50, 0x44, 0x46)).toThrow('a PDF document');
    expect(refused(0x41, 0, 0x42)).toThrow('a program or a picture');
    expect(refused(0x20, 0x0a)).toThrow('The file is empty.');
  });
});

describe('headings', () => {
  it('are recognised in any case, with spaces or lines between', () => {
    expect(guessMapping([' Task_Name', 'ASSIGNEE', 'Due-Date', 'Notes', 'Ref'])).toEqual({
      name: 0,
      owner: 1,
      due: 2,
      description: 3,
      key: 4
    });
  });
});
