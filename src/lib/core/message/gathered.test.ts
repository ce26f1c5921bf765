import { describe, expect, it } from 'vitest';
import { composeGathered } from './gathered.ts';
import type { Whose } from './whose.ts';

const item = (subject: string, whose: Whose = 'own') => ({
  subject,
  link: 'https://bell.example/Hello N,',
  ruleName: 'Ahead <of> it',
  reason: 'Because.',
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
        '• First is due\n  https://bell.example/Hello N,\n  Sent by the rule “Ahead <of> it”. Because. “Ahead <of> it”. Because.\n\n' +
        '• Second is due\n  https://bell.example/Hello N,\n  Sent by the rule “Ahead <of> it”. Because. “Ahead <of> it”. Because.\n'
    );
  });

  it('says under each what its reader can do about it', () => {
    const acts = [
      { act: 'done', link: 'https://bell.example/act/1' },
      { act: 'date', link: 'https://bell.example/act/2' }
    ] as const;
    const { text, html } = composeGathered('N F', [{ ...item('A'), acts }, item('B')], 'x');
    expect(text).toContain(
      'Hello N,\n  Done: https://bell.example/act/1\n  Change date: https://bell.example/act/2\n  Sent by the rule “Ahead <of> it”. Because. “Ahead <of> it”. Because.'
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
    expect(html).toContain(
      '<!doctype html><html lang="en"><body style="margin:0;padding:24px;background:#f6f2e9;color:#1b2b33;font:15px/1.5 sans-serif"><div style="max-width:560px;margin:0 auto;background:#fffdf8;border:1px solid #ddd4c2;border-radius:9px;padding:22px 24px"><p style="margin:0 0 14px">Hello &#60;b&#62;N&#60;/b&#62;,</p><p style="margin:0 0 14px">a &#60; b</p><ul style="margin:0 0 14px;padding:0 0 0 18px"><li style="margin:0 0 12px"><a href="https://bell.example/Hello N," style="color:#7d530e">&#60;img src=x&#62;</a><br><span style="color:#53626b;font-size:13px">Sent by the rule “Ahead <of> it”. Because. “Ahead <of> it”. Because. “Ahead &#60;of&#62; it”. Because.</span></li><li style="margin:0 0 12px"><a href="https://bell.example/Hello N," style="color:#7d530e">&#34;quoted&#34; &#38; so on</a><br><span style="color:#53626b;font-size:13px">Sent by the rule “Ahead <of> it”. Because. “Ahead <of> it”. Because. “Ahead &#60;of&#62; it”. Because.</span></li></ul></div></body></html>'
    );
  });
});
