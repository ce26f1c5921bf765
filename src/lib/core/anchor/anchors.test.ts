import { describe, expect, it } from 'vitest';
import { NO_DETAILS } from '../task/details.ts';
import { ANCHORS, checkAnchor, LEAD_ANCHORS, TASK_DATES } from './anchors.ts';

const task = {
  ...{ id: 7, due: null, start: null, remindOn: null, ownerId: null, register: false }
};
const bare = () => NO_DETAILS;
const day = { day: 20_000, minute: null, zone: null };

describe('each anchor', () => {
  it.each(LEAD_ANCHORS)('%s has words for a day, a moment, a sentence and a task that lacks it', (name) => {
    const { day, moment, stands, lacking } = ANCHORS[name];
    for (const words of [day, moment, stands, lacking]) expect(words).toMatch(/^\S.*\S$/);
    expect(`${day} ${moment}`).not.toMatch(/date date/);
  });

  it.each(LEAD_ANCHORS)(
    '%s can be counted back from unless it is known only once it has happened',
    (name) => {
      checkAnchor(name, 2);
      if (ANCHORS[name].happened)
        expect(() => checkAnchor(name, -1)).toThrow(`The ${ANCHORS[name].day} is not known beforehand`);
      else checkAnchor(name, -1);
    }
  );

  it.each(LEAD_ANCHORS)('%s is nothing where the task has no such date', (name) => {
    const anchor = ANCHORS[name];
    const known = ['created', 'last touched', 'phase entered'].includes(name);
    expect(anchor.read(task, bare)).toEqual(known ? 0 : null);
  });
});

it('reminders are counted from the dates that stand on the task itself', () => {
  expect(TASK_DATES).toEqual(['due', 'start', 'remind on']);
});

it('a ladder does not climb for what is no work', () => {
  expect(ANCHORS.ladder.read({ ...task, due: day })).toEqual(day);
  expect(ANCHORS.ladder.read({ ...task, due: day, register: true })).toBeNull();
});
