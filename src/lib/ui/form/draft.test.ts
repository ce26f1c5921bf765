import { describe, expect, it } from 'vitest';
import { Draft } from './draft.ts';

describe('a draft', () => {
  it('is unsaved while it differs from what the server has, and not when it is changed back', () => {
    const draft = new Draft('a');
    expect(draft.isUnsaved('a')).toBe(false);
    expect(draft.isUnsaved('b')).toBe(true);
    draft.markSaved('b');
    expect(draft.isUnsaved('b')).toBe(false);
    expect(draft.isUnsaved('a')).toBe(true);
  });

  it('keeps what is typed when the page is read again for something else', () => {
    const draft = new Draft('a');
    expect(draft.follow('a', 'being typed')).toBe('same');
    expect(draft.isUnsaved('being typed')).toBe(true);
  });

  it('is what the page holds after a save, or an undo of it', () => {
    const draft = new Draft('a');
    draft.markSaved('b');
    expect(draft.follow('b', 'b')).toBe('taken');
    expect(draft.follow('a', 'b')).toBe('taken');
    expect(draft.isUnsaved('a')).toBe(false);
  });

  it('keeps what was written while it was being saved, and knows that it is not saved', () => {
    const draft = new Draft('a');
    draft.markSaved('b');
    expect(draft.follow('b', 'b and more')).toBe('written on');
    expect(draft.isUnsaved('b and more')).toBe(true);
    expect(draft.isUnsaved('b')).toBe(false);
  });

  it('keeps what is written here where somebody else has saved meanwhile, and stays unsaved', () => {
    const draft = new Draft('a');
    expect(draft.follow('theirs', 'mine')).toBe('overtaken');
    expect(draft.isUnsaved('mine')).toBe(true);
  });

  it('is taken where somebody else has saved the very same', () => {
    const draft = new Draft('a');
    expect(draft.follow('b', 'b')).toBe('taken');
    expect(draft.isUnsaved('b')).toBe(false);
  });
});
