<script lang="ts">
  import { Editor } from '@tiptap/core';
  import type { SuggestionProps } from '@tiptap/suggestion';
  import { onMount, untrack } from 'svelte';
  import { FIELDS, FIELD_NAMES, type FieldName } from '$lib/core/message/fields.ts';
  import { searchOptions } from '$lib/ui/pick/option.ts';
  import { documentOf, piecesOf, textOf } from './merge-text.ts';
  import { textExtensions, type FieldOption } from './merge-field.ts';

  /** Words with merge fields, typed in place: a field is offered after ‹ or <, and stands in the text as one thing. */
  interface Props {
    label: string;
    text: string;
    /** A heading: one line. */
    oneLine?: boolean;
    /** The fields that may stand in it. */
    fields?: readonly FieldName[];
    onchange: (text: string) => void;
    onfocus?: () => void;
  }

  let { label, text, oneLine = false, fields = FIELD_NAMES, onchange, onfocus }: Props = $props();
  const id = $props.id();

  let holder: HTMLDivElement;
  let editor: Editor | null = null;
  let ready = $state(false);
  let offered = $state<{ items: FieldOption[]; at: number; left: number; top: number } | null>(null);
  let choose: ((option: FieldOption) => void) | null = null;
  /** The field that is selected, with what stands there when it has no value. */
  let selected = $state<{ field: FieldName; fallback: string | null } | null>(null);

  const options = $derived(
    fields.map((name) => ({ name, value: name, label: `${name} ${FIELDS[name].label}` }))
  );
  /** What the editor itself made of the text last, to tell it from what comes from outside. */
  let mine = untrack(() => text);

  /** Lines of what is pasted, for a text of one line. */
  const linesOf = (pasted: string) =>
    pasted
      .split('\n')
      .map((line) => line.trim())
      .filter(Boolean);

  function show({ items, clientRect, command }: SuggestionProps<FieldOption, FieldOption>) {
    const place = clientRect?.();
    choose = command;
    offered = items.length > 0 && place ? { items, at: 0, left: place.left, top: place.bottom + 4 } : null;
  }
  function onkey({ event }: { event: KeyboardEvent }): boolean {
    if (!offered) return false;
    const { items, at } = offered;
    if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      const step = event.key === 'ArrowDown' ? 1 : -1;
      offered.at = (at + step + items.length) % items.length;
      return true;
    }
    if (event.key === 'Enter' || event.key === 'Tab') {
      choose?.(items[at]!);
      return true;
    }
    if (event.key !== 'Escape') return false;
    offered = null;
    return true;
  }

  onMount(() => {
    editor = new Editor({
      // Its style sheet would be written into the page; what we need of it stands below.
      injectCSS: false,
      element: holder,
      content: documentOf(text),
      extensions: textExtensions({
        oneLine,
        placeholder: oneLine ? 'The subject' : 'What it says',
        suggesting: {
          items: ({ query }) => searchOptions(options, query).slice(0, 8),
          render: () => ({ onStart: show, onUpdate: show, onKeyDown: onkey, onExit: () => (offered = null) })
        }
      }),
      editorProps: {
        attributes: {
          role: 'textbox',
          'aria-label': label,
          'aria-multiline': String(!oneLine),
          class: oneLine ? 'field-text one' : 'field-text'
        },
        handleKeyDown: (_view, event) => oneLine && event.key === 'Enter' && !offered,
        // What is pasted comes as plain words: a message has no fonts.
        handlePaste(view, event) {
          const pasted = event.clipboardData?.getData('text/plain');
          if (pasted === undefined) return false;
          const words = oneLine ? linesOf(pasted).join(' ') : pasted.replaceAll('\r\n', '\n');
          editor!.commands.insertContent(oneLine ? piecesOf(words) : documentOf(words).content!);
          view.focus();
          return true;
        }
      },
      onFocus: () => onfocus?.(),
      onUpdate: ({ editor: changed }) => {
        mine = textOf(changed.getJSON());
        onchange(mine);
      },
      onSelectionUpdate: ({ editor: changed }) => {
        const { node } = changed.state.selection as { node?: { type: { name: string }; attrs: object } };
        selected = node?.type.name === 'mergeField' ? ({ ...node.attrs } as typeof selected) : null;
      }
    });
    ready = true;
    return () => editor?.destroy();
  });

  // Words of a template, a mend or an undo come from outside.
  $effect(() => {
    if (!ready || text === mine) return;
    mine = text;
    editor!.commands.setContent(documentOf(text), { emitUpdate: false });
  });

  /** Puts a field where the writing stands. */
  export function insert(field: FieldName) {
    editor
      ?.chain()
      .focus()
      .insertContent({ type: 'mergeField', attrs: { field, fallback: null } })
      .run();
  }
  function setFallback(fallback: string) {
    editor
      ?.chain()
      .updateAttributes('mergeField', { fallback: fallback.replaceAll(/[‹›\n]/g, '') || null })
      .run();
  }
</script>

<div class="holder" class:one={oneLine}>
  <div bind:this={holder}></div>
  {#if !ready}<div class="field-text" class:one={oneLine}>
      {#each text.split('\n') as line, i (i)}<p>{line}</p>{/each}
    </div>{/if}
  {#if selected}
    <label class="fallback quiet" for="{id}-fallback"
      >‹{selected.field}› without a value says
      <input
        id="{id}-fallback"
        class="value"
        maxlength="80"
        placeholder={FIELDS[selected.field].fallback || 'nothing'}
        value={selected.fallback ?? ''}
        onchange={(event) => setFallback(event.currentTarget.value)}
      /></label
    >
  {/if}
</div>
{#if offered}
  <ul
    class="offered"
    style:left="{offered.left}px"
    style:top="{offered.top}px"
    role="listbox"
    aria-label="Fields"
  >
    {#each offered.items as item, i (item.name)}
      <!-- Chosen on press, before the text loses the focus; the keyboard chooses in the text. -->
      <li
        role="option"
        aria-selected={i === offered.at}
        onmousedown={(event) => {
          event.preventDefault();
          choose?.(item);
        }}
      >
        <b>‹{item.name}›</b> <span class="quiet">{FIELDS[item.name].label}</span>
      </li>
    {/each}
  </ul>
{/if}

<style>
  .holder {
    width: 100%;
  }
  .holder :global(.field-text) {
    padding: 5px 9px;
    min-height: 74px;
    line-height: 1.5;
    font-size: 13px;
    outline: none;
    white-space: pre-wrap;
    overflow-wrap: anywhere;
  }
  .holder :global(.field-text.one) {
    min-height: 30px;
    font-weight: 600;
  }
  .holder :global(.field-text:focus-visible) {
    outline: 2px solid var(--brass);
    outline-offset: -2px;
    border-radius: 6px;
  }
  .holder :global(.field-text p) {
    min-height: 1.5em;
  }
  .holder :global(.merge) {
    color: var(--brass-ink);
    font-weight: 550;
    border-radius: 4px;
    cursor: pointer;
  }
  .holder :global(.ProseMirror) {
    position: relative;
    overflow-wrap: break-word;
    white-space: break-spaces;
    font-variant-ligatures: none;
  }
  .holder :global(.ProseMirror [contenteditable='false']) {
    white-space: normal;
  }
  .holder :global(img.ProseMirror-separator) {
    display: inline !important;
    width: 0 !important;
    height: 0 !important;
    margin: 0 !important;
    border: none !important;
  }
  .holder :global(.merge.ProseMirror-selectednode) {
    background: var(--brass-wash);
    outline: 1px solid var(--brass);
  }
  .holder :global(p.is-editor-empty:first-child::before) {
    content: attr(data-placeholder);
    color: var(--ink-3);
    float: left;
    height: 0;
    pointer-events: none;
  }
  .fallback {
    display: flex;
    flex-wrap: wrap;
    gap: 6px;
    align-items: center;
    padding: 4px 9px;
  }
  .offered {
    position: fixed;
    z-index: 40;
    max-width: 380px;
    background: var(--sheet);
    border: 1px solid var(--line);
    border-radius: 7px;
    padding: 4px 0;
    box-shadow: 0 8px 24px rgb(0 0 0 / 12%);
    font-size: 13px;
  }
  .offered li {
    padding: 4px 12px;
    cursor: pointer;
  }
  .offered li[aria-selected='true'],
  .offered li:hover {
    background: var(--brass-wash);
  }
</style>
