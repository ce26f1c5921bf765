import { describe, expect, it } from 'vitest';
import { NOTICE_KINDS, TELLING_KINDS } from '../notice/kinds.ts';
import { CHANNEL, channelNamed, CHANNELS, isLeaving, LEAVING } from './channels.ts';
import { NOTHING_SET } from './settings.ts';

const somebody = { id: 3, email: 'ines@team.example', phone: '+351 265 555 010', chat: 'ines' };
const nobody = { id: 4, email: null, phone: null, chat: null };

describe('each channel', () => {
  it.each(CHANNELS)('%s reaches whoever has what it needs, and nobody else', (name) => {
    const { addressOf, shown, needs, words, by } = CHANNEL[name];
    expect(addressOf(nobody)).toBeNull();
    expect(shown(addressOf(somebody)!)).toMatch(/\S/);
    for (const said of [needs, words, by]) expect(said).toMatch(/^\S.*\S$/);
  });

  it.each(CHANNELS)('%s carries every notice: a rule that insists on it tells', (name) => {
    expect(NOTICE_KINDS.filter((kind) => CHANNEL[name].cannotCarry(kind) !== null)).toEqual([]);
  });

  it('is found by its name alone', () => {
    for (const name of CHANNELS) expect(channelNamed(name)).toBe(name);
    for (const none of ['', 'Mail', 'post', null, 3, 'toString']) expect(channelNamed(none)).toBeNull();
  });
});

it('mail comes first, and takes the place of whatever is not open', () => {
  expect(CHANNELS[0]).toBe('mail');
});

it('what can be set is set for the channels whose messages others take over', () => {
  expect(LEAVING).toEqual(Object.keys(NOTHING_SET));
  expect(CHANNELS.filter((name) => !isLeaving(name))).toEqual(['in-app']);
});

it('what is too long for a telephone is said, not cut', () => {
  const tooLong = TELLING_KINDS.filter((kind) => CHANNEL.text.cannotCarry(kind) !== null);
  expect(tooLong).toEqual(['digest of due', 'digest of overdue', 'rule fault']);
});
