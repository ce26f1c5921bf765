<script lang="ts">
  import Pick from '$lib/ui/pick/Pick.svelte';
  import { namedOptions } from '$lib/ui/pick/option.ts';
  import type { WordsView } from '$lib/view/rule-trials.ts';

  /** The words as somebody would read them about a real task, filled as they are typed. */
  interface Props {
    words: WordsView;
    tasks: readonly { id: number; name: string }[];
    /** Tells it apart from that of another step. */
    suffix: string;
    ontask: (id: number) => void;
  }

  let { words, tasks, suffix, ontask }: Props = $props();
</script>

<div class="preview" aria-live="polite">
  <p class="quiet">
    {words.asIf ? 'as if it rang now' : words.at.there}, {words.at.place}
    {#if words.at.here}<span>({words.at.here} here)</span>{/if} · to {words.reader} · about
    <Pick
      label="Task of the preview{suffix}"
      still
      options={namedOptions(tasks)}
      value={words.taskId}
      blank={words.task}
      onchange={ontask}
    />
  </p>
  <p class="subject">{words.subject}</p>
  <p class="text">{words.text}</p>
</div>

<style>
  .preview {
    border-left: 2px solid var(--lit-edge);
    padding: 2px 0 2px 10px;
    width: 100%;
    font-size: 12.5px;
  }
  .subject {
    font-weight: 600;
  }
  .text {
    white-space: pre-wrap;
    overflow-wrap: anywhere;
  }
</style>
