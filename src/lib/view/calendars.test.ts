import { describe, expect, it } from 'vitest';
import { differences, typedIntervals, withDays, yearOf, type CalendarDraft } from './calendars.ts';

const OPEN = ['09:00-17:00'];
const draft = (patch: Partial<CalendarDraft> = {}): CalendarDraft => ({
  name: 'Quay',
  week: { mon: OPEN, tue: OPEN, wed: OPEN, thu: OPEN, fri: OPEN },
  weeks: [],
  days: [],
  ...patch
});

describe('the year view', () => {
  it('says what each day is, by the week that holds then and by its own exception', () => {
    const months = yearOf(
      draft({
        weeks: [{ from: '2026-03-09', week: { sat: ['10:00-12:00'] } }],
        days: [
          { date: '2026-03-04', name: 'Regatta', intervals: [] },
          { date: '2026-03-05', name: null, intervals: ['09:00-12:00'] }
        ]
      }),
      2026
    );
    expect(months).toHaveLength(12);
    const march = months[2]!;
    // 1 March 2026 is a Sunday: six cells stand before it in weeks from Monday.
    expect([march.name, march.lead, march.days.length]).toEqual(['March', 6, 31]);
    const said = (dayOfMonth: number) => {
      const { kind, words } = march.days[dayOfMonth - 1]!;
      return `${kind}: ${words}`;
    };
    expect([1, 3, 4, 5, 9, 14].map(said)).toEqual([
      'closed: closed',
      'open: 09:00-17:00',
      'holiday: Regatta, closed',
      'other hours: 09:00-12:00',
      'closed: closed',
      'open: 10:00-12:00'
    ]);
    expect(yearOf(draft(), 2028)[1]!.days).toHaveLength(29);
  });
});

describe('two versions of a calendar', () => {
  it('differ in what is said, and in nothing when they are the same', () => {
    expect(differences(draft(), draft())).toEqual([]);
    const after = draft({
      name: 'Pier',
      week: { mon: OPEN },
      weeks: [{ from: '2026-09-01', week: {} }],
      days: [{ date: '2026-03-04', name: 'Regatta', intervals: [] }]
    });
    expect(differences(draft(), after)).toEqual([
      'its name: Quay → Pier',
      'its week',
      'the week from 2026-09-01, new',
      '2026-03-04: same as its weekday → Regatta, closed'
    ]);
    expect(differences(after, draft()).slice(2)).toEqual([
      'the week from 2026-09-01, removed',
      '2026-03-04: Regatta, closed → same as its weekday'
    ]);
  });

  it('join their days by date, the later ones in the place of the earlier', () => {
    const day = (date: string, name: string) => ({ date, name, intervals: [] });
    expect(
      withDays([day('2026-03-04', 'A'), day('2026-01-01', 'B')], [day('2026-03-04', 'C')]).map(
        ({ name }) => name
      )
    ).toEqual(['B', 'C']);
  });
});

describe('hours as people type them', () => {
  it.each([
    ['9-13, 14:30–18', ['09:00-13:00', '14:30-18:00']],
    ['22.00 to 6', ['22:00-06:00']],
    ['0-24', ['00:00-24:00']],
    ['', []]
  ])('%s', (text, intervals) => {
    expect(typedIntervals(text)).toEqual({ intervals, error: null });
  });

  it.each(['9', '9-9', '25-26', 'soon'])('%s is refused with a sentence', (text) => {
    expect(typedIntervals(text).error).toMatch(/[.]$/);
  });
});
