import { describe, expect, it } from 'vitest';
import { CHANNEL } from './channels.ts';
import { waysFor, waysTo, type Reached } from './ways.ts';

const everything: Reached = {
  email: ' ines@team.example ',
  otherWays: [
    { channel: 'text', address: '+351265555010' },
    { channel: 'chat', address: 'ines' },
    { channel: 'in-app', address: 'person 1' }
  ],
  channels: { overdue: ['text', 'in-app'] }
};
const channelsOf = (...given: Parameters<typeof waysFor>) => waysFor(...given).map(({ channel }) => channel);

describe('by which ways somebody is told', () => {
  it('goes by mail where nothing was chosen', () => {
    expect(waysFor(everything, 'reminder', null)).toEqual([
      { channel: 'mail', address: 'ines@team.example' }
    ]);
  });

  it('goes by what was chosen for the kind', () => {
    expect(channelsOf(everything, 'overdue', null)).toEqual(['text', 'in-app']);
  });

  it('goes by what the rule insists on, whatever was chosen', () => {
    expect(channelsOf(everything, 'overdue', ['chat'])).toEqual(['chat']);
  });

  it('takes the next way that is open where none of the wanted ones is', () => {
    const mailOnly: Reached = { ...everything, otherWays: [] };
    expect(channelsOf(mailOnly, 'overdue', null)).toEqual(['mail']);
    expect(channelsOf(mailOnly, 'reminder', ['text'])).toEqual(['mail']);
    const noMail: Reached = { ...everything, email: null };
    expect(channelsOf(noMail, 'reminder', null)).toEqual(['text']);
  });

  it('does not put into a text message what that cannot carry', () => {
    expect(CHANNEL.text.cannotCarry('rule fault')).toMatch(/too long/);
    expect(channelsOf({ ...everything, channels: { 'rule fault': ['text'] } }, 'rule fault', null)).toEqual([
      'mail'
    ]);
    const phoneOnly: Reached = { email: null, otherWays: [everything.otherWays[0]!], channels: {} };
    expect(waysFor(phoneOnly, 'rule fault', null)).toEqual([]);
  });

  it('lists every way, mail first', () => {
    expect(waysTo(everything).map(({ channel }) => channel)).toEqual(['mail', 'text', 'chat', 'in-app']);
  });
});
