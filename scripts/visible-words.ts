import { parse } from 'svelte/compiler';
import ts from 'typescript';

/** A sentence, label or word that somebody can see, and the line on which it begins. */
export interface Visible {
  line: number;
  /** Values in it stand as `{…}`. */
  words: string;
}

/** Attributes whose text nobody sees. */
const UNSEEN_ATTRIBUTES =
  /^(class|href|src|name|type|id|for|form|method|action|formaction|value|d|viewBox|role|rel|lang|style|inputmode|autocomplete|accept|pattern|slot|key|list|enctype|target|charset|content|property|media|as|loading|dir|tabindex|scope|step|min|max)$|^data-|^aria-(live|current|hidden|invalid|expanded|pressed|controls|describedby|labelledby|haspopup|selected|sort|owns|activedescendant|autocomplete|modal|level|orientation|busy|atomic)$|^--/;
/** What is no language of people: SQL, paths, rules, patterns, keys. */
const NO_WORDS =
  /\b(SELECT|INSERT INTO|UPDATE \w+ SET|DELETE FROM|CREATE (TABLE|INDEX)|PRAGMA|JOIN|COALESCE|WHERE|ORDER BY)\b|^(FREQ=|https?:|\.{0,2}\/|@|--|#)|^[\w-]+(\.[\w-]+)+$/;

/** Whether a text reads as words: a sentence, or a word that begins one. */
export function readsAsWords(text: string): boolean {
  const bare = text.replaceAll('{…}', '').trim();
  if (!/\p{L}{2,}/u.test(bare) || NO_WORDS.test(bare)) return false;
  // A word beside a value is half a sentence.
  if (text.includes('{…}') && /\s/.test(text.trim())) return true;
  return /\p{L}\s+\S*\p{L}/u.test(bare) || /^\p{Lu}\p{Ll}+[.!?:…]?$/u.test(bare);
}

const plain = (text: string) => text.replace(/\s+/g, ' ').trim();

/** What can be seen of a TypeScript file: its texts, with what is put into them as `{…}`. @param from the line that its first is */
export function wordsOfScript(source: string, from = 1): Visible[] {
  const file = ts.createSourceFile('a.ts', source, ts.ScriptTarget.Latest, true);
  const found: Visible[] = [];
  const add = (node: ts.Node, text: string) => {
    if (readsAsWords(text))
      found.push({
        line: from + file.getLineAndCharacterOfPosition(node.getStart()).line,
        words: plain(text)
      });
  };
  const visit = (node: ts.Node): void => {
    // Names of modules and of types are for the compiler.
    if (ts.isImportDeclaration(node) || ts.isExportDeclaration(node) || ts.isTypeNode(node)) return;
    if (ts.isStringLiteralLike(node)) return add(node, node.text);
    if (ts.isTemplateExpression(node)) {
      add(node, [node.head.text, ...node.templateSpans.map(({ literal }) => `{…}${literal.text}`)].join(''));
      for (const { expression } of node.templateSpans) visit(expression);
      return;
    }
    ts.forEachChild(node, visit);
  };
  visit(file);
  return found;
}

interface SvelteNode {
  type: string;
  start: number;
  end: number;
  name?: string;
  data?: string;
  value?: unknown;
  [key: string]: unknown;
}

/** What can be seen of a Svelte file: its text, the attributes that are read, and the texts in its expressions. */
export function wordsOfSvelte(source: string): Visible[] {
  const { fragment, instance, module } = parse(source, { modern: true });
  const found: Visible[] = [];
  const lineAt = (at: number) => source.slice(0, at).split('\n').length;
  const script = (start: number, end: number) =>
    found.push(...wordsOfScript(source.slice(start, end), lineAt(start)));
  for (const part of [module, instance])
    if (part) {
      const { start, end } = part.content as unknown as SvelteNode;
      script(start, end);
    }
  const walk = (node: SvelteNode): void => {
    if (node.type === 'Attribute' && typeof node.name === 'string') return attribute(node);
    if (node.type === 'ExpressionTag') return void script(node.start + 1, node.end - 1);
    for (const child of Object.values(node)) each(child);
  };
  const each = (value: unknown): void => {
    if (Array.isArray(value)) {
      if (value.some((one) => (one as SvelteNode | null)?.type === 'Text')) text(value as SvelteNode[]);
      value.forEach(each);
    } else if (value && typeof value === 'object' && 'type' in value) walk(value as SvelteNode);
  };
  /** Text with the values in it is one sentence; an element or a block ends it. */
  const text = (nodes: readonly SvelteNode[]) => {
    let words = '';
    let at = 0;
    for (const node of [...nodes, null]) {
      if (node?.type === 'Text' || node?.type === 'ExpressionTag') {
        if (words.trim() === '') at = node.start + (node.data?.search(/\S/) ?? 0);
        words += node.type === 'Text' ? node.data : '{…}';
        continue;
      }
      // One word of a screen is words too, whatever its case.
      if (/\p{L}{2,}/u.test(words.replaceAll('{…}', '')))
        found.push({ line: lineAt(at), words: plain(words) });
      words = '';
    }
  };
  const attribute = ({ name, value, start }: SvelteNode) => {
    const parts = (Array.isArray(value) ? value : [value]) as SvelteNode[];
    const isRead = !UNSEEN_ATTRIBUTES.test(name!);
    const words = parts.map((part) => (part?.type === 'Text' ? part.data : '{…}')).join('');
    if (isRead && /\p{L}{2,}/u.test(words.replaceAll('{…}', '')))
      found.push({ line: lineAt(start), words: plain(words) });
    for (const part of parts) if (part?.type === 'ExpressionTag') walk(part);
  };
  each(fragment.nodes);
  return found.sort((a, b) => a.line - b.line);
}

/** What can be read in a document: its lines, without what is code. */
export function wordsOfDocument(source: string): Visible[] {
  const outside = source.replace(/^```[\s\S]*?^```/gm, (block) => block.replace(/[^\n]/g, ''));
  return outside
    .split('\n')
    .map((line, i) => ({ line: i + 1, words: plain(line.replace(/^[#>*\s-]+|\|/g, ' ')) }))
    .filter(({ words }) => readsAsWords(words));
}
