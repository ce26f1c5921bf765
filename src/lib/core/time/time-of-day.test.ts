import { describe, expect, it } from 'vitest';
import { typedTime } from './time-of-day.ts';

/** How people write a time of day: common practice, no source. */
describe('a time of day as it is typed', () => {
  it.each([
    ['9', '09:00'],
    ['9:00', '09:00'],
    ['9.30', '09:30'],
    ['9h30', '09:30'],
    ['0930', '09:30'],
    ['3pm', '15:00'],
    ['3 p.m.', '15:00'],
    ['12am', '00:00'],
    ['12 pm', '12:00'],
    ['11:15am', '11:15'],
    ['noon', '12:00'],
    ['Midnight', '00:00'],
    ['', null],
    // What is no time is given back, to be refused with its sentence.
    ['25', '25:00'],
    ['13pm', '13pm'],
    ['0am', '0am'],
    ['soon', 'soon']
  ])('“%s”', (text, time) => {
    expect(typedTime(text)).toBe(time);
  });
});
