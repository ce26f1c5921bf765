import { describe, expect, it } from 'vitest';
import { composeGathered } from './gathered.ts';
import type { Whose } from './whose.ts';

const item = (subject: string, whose: Whose = 'own') => ({
  subject,
  link: 'https://bell.example/tasks/7?a=1&b=2',
  ruleName: 'Ahead <of> it',
  reason: 'Because.',
  decided: 'Because.',
  whose,
  acts: []
});

describe('several notices as one message', () => {
  it('names how many, each with its link and reason, in their order', () => {
    const { subject, text } = composeGathered(
      'Nora Fielding',
      [item('First is due'), item('Second is due')],
      'They waited.'
    );
    expect(subject).toBe('2 notices: First is due and 1 more');
    expect(text).toBe(
      'Hello Nora,\n\nThey waited.\n\n' +
        '• First is due\n  https://bell.example/tasks/7?a=1&b=2\n  Sent by the rule “Ahead <of> it”. Because.\n\n' +
        '• Second is due\n  https://bell.example/tasks/7?a=1&b=2\n  Sent by the rule “Ahead <of> it”. Because.\n'
    );
  });

  it('says under each what its reader can do about it', () => {
    const acts = [
      { act: 'done', link: 'https://bell.example/act/1' },
      { act: 'date', link: 'https://bell.example/act/2' }
    ] as const;
    const { text, html } = composeGathered('N F', [{ ...item('A'), acts }, item('B')], 'x');
    expect(text).toContain(
      'tasks/7?a=1&b=2\n  Done: https://bell.example/act/1\n  Change date: https://bell.example/act/2\n  Sent by the rule'
    );
    expect(html.match(/\/act\//g)).toHaveLength(2);
  });

  it('keeps one’s own apart from the work of others', () => {
    const items = [item('Late of Ines', 'other'), item('Mine'), item('Late of Rui', 'other')];
    const { subject, text, html } = composeGathered('N F', items, 'x');
    expect(subject).toBe('3 notices: Mine and 2 more');
    const lines = text.split('\n').filter((line) => /^(•|Yours|Of others)/.test(line));
    expect(lines).toEqual(['Yours (1)', '• Mine', 'Of others (2)', '• Late of Ines', '• Late of Rui']);
    expect(html.indexOf('Yours (1)')).toBeLessThan(html.indexOf('Of others (2)'));
  });

  it('escapes in HTML what people wrote', () => {
    const { html } = composeGathered('<b>N</b> F', [item('<img src=x>'), item('"quoted" & so on')], 'a < b');
    expect(html).not.toMatch(/<img|<b>|"quoted"/);
    expect(html).toContain('&#60;img src=x&#62;');
    expect(html).toContain('href="https://bell.example/tasks/7?a=1&#38;b=2"');
  });
});
