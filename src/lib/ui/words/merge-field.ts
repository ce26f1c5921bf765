import { Extension, Node, mergeAttributes } from '@tiptap/core';
import { Document } from '@tiptap/extension-document';
import { Paragraph } from '@tiptap/extension-paragraph';
import { Text } from '@tiptap/extension-text';
import { Placeholder, UndoRedo } from '@tiptap/extensions';
import { Plugin } from '@tiptap/pm/state';
import Suggestion, { type SuggestionOptions } from '@tiptap/suggestion';
import { PluginKey } from '@tiptap/pm/state';
import type { FieldName } from '$lib/core/message/fields.ts';
import { piecesOf, written } from './merge-text.ts';

/** A merge field that can be picked. */
export interface FieldOption {
  name: FieldName;
  label: string;
}
type Suggesting = Pick<SuggestionOptions<FieldOption, FieldOption>, 'items' | 'render'>;

/** A merge field in a text: it is one thing, and is taken out as one. */
const MergeField = Node.create({
  name: 'mergeField',
  group: 'inline',
  inline: true,
  atom: true,
  selectable: true,
  addAttributes: () => ({ field: { default: 'task' }, fallback: { default: null } }),
  parseHTML: () => [
    {
      tag: 'span[data-field]',
      getAttrs: (element) => ({
        field: element.dataset.field,
        fallback: element.dataset.fallback ?? null
      })
    }
  ],
  renderHTML({ node, HTMLAttributes }) {
    const { field, fallback } = node.attrs as { field: string; fallback: string | null };
    const data = { 'data-field': field, ...(fallback === null ? {} : { 'data-fallback': fallback }) };
    return ['span', mergeAttributes(HTMLAttributes, data, { class: 'merge' }), written(field, fallback)];
  },
  renderText: ({ node }) => written(node.attrs.field as string, node.attrs.fallback as string | null)
});

/** What is typed or pasted as a field becomes one. */
const TypedFields = Extension.create({
  name: 'typedFields',
  addProseMirrorPlugins() {
    return [
      new Plugin({
        props: {
          // Typed to its end: taken before the browser writes the mark itself.
          handleTextInput({ state, dispatch }, from, to, typed) {
            if (typed !== '›') return false;
            const start = state.doc.resolve(from);
            const before = start.parent.textBetween(0, start.parentOffset, undefined, '\ufffc');
            const open = before.lastIndexOf('‹');
            const [piece] = open < 0 ? [] : piecesOf(`${before.slice(open)}›`);
            if (piece?.type !== 'mergeField') return false;
            const begin = from - (before.length - open);
            dispatch(state.tr.replaceWith(begin, to, state.schema.nodeFromJSON(piece)));
            return true;
          }
        },
        appendTransaction(transactions, _before, { doc, schema, tr }) {
          if (!transactions.some(({ docChanged }) => docChanged)) return null;
          const found: { from: number; to: number; text: string }[] = [];
          doc.descendants((node, at) => {
            if (node.isText && node.text!.includes('›'))
              found.push({ from: at, to: at + node.nodeSize, text: node.text! });
          });
          for (const { from, to, text } of found.reverse()) {
            const pieces = piecesOf(text);
            if (pieces.every(({ type }) => type === 'text')) continue;
            tr.replaceWith(
              from,
              to,
              pieces.map((piece) => schema.nodeFromJSON(piece))
            );
          }
          return tr.docChanged ? tr : null;
        }
      })
    ];
  }
});

/** Fields are offered as soon as their opening mark, or the one that every keyboard has, is typed. */
const OfferedFields = (suggesting: Suggesting) =>
  Extension.create({
    name: 'offeredFields',
    addProseMirrorPlugins() {
      return ['‹', '<'].map((char) =>
        Suggestion<FieldOption, FieldOption>({
          editor: this.editor,
          pluginKey: new PluginKey(`fields ${char}`),
          char,
          allowSpaces: true,
          allowedPrefixes: null,
          ...suggesting,
          command: ({ editor, range, props }) => {
            // The text has the focus already; asking for it again would come after what is typed next.
            editor
              .chain()
              .insertContentAt(range, { type: 'mergeField', attrs: { field: props.name, fallback: null } })
              .run();
          }
        })
      );
    }
  });

/** Everything that a text with merge fields is made of. */
export function textExtensions(how: { oneLine: boolean; placeholder: string; suggesting: Suggesting }) {
  return [
    how.oneLine ? Document.extend({ content: 'paragraph' }) : Document,
    Paragraph,
    Text,
    UndoRedo,
    Placeholder.configure({ placeholder: how.placeholder }),
    MergeField,
    TypedFields,
    OfferedFields(how.suggesting)
  ];
}
