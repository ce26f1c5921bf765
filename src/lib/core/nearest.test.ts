import { describe, expect, it } from 'vitest';
import { nearest } from './nearest.ts';

describe('the nearest names', () => {
  it('forgive swapped, missing and accented letters', () => {
    expect(nearest('taks', ['task', 'owner'])).toEqual(['task']);
    expect(nearest('ines moura', ['Inês Moura', 'Rui Tavares'])).toEqual(['Inês Moura']);
    expect(nearest('halifx', ['Halifax', 'Muscat'])).toEqual(['Halifax']);
  });

  it('are none when nothing is near, and at most three', () => {
    expect(nearest('zebra', ['task', 'owner'])).toEqual([]);
    expect(nearest('tide', ['tide 1', 'tide 2', 'tide 3', 'tide 4']).length).toBe(3);
  });
});
