<!-- Everything that a rule says, in one line of parts; what is inside its branches, and steps beyond the first few, behind a press. -->
<script lang="ts">
  import { many } from '$lib/core/many.ts';
  import { sentenceText, type SentencePart } from '$lib/core/rule/words/sentence.ts';

  let { parts }: { parts: readonly SentencePart[] } = $props();

  const DOT = ' · ';
  /** So many steps are said before the rest is behind a press. */
  const STEPS_SAID = 6;
  const steps = $derived(parts.filter(({ of }) => of === 'step'));
  const beyond = $derived(new Set(steps.slice(STEPS_SAID)));
  const shown = $derived(parts.filter((part) => !beyond.has(part)));
  const lastStep = $derived(steps.length > STEPS_SAID ? steps[STEPS_SAID - 1] : undefined);
</script>

{#each shown as part, i (i)}{#if i > 0}<span class="quiet" aria-hidden="true">{DOT}</span>{/if}<span
    class={part.of === 'limit' ? 'quiet' : ''}
    >{#if part.inner.length === 0}{part.words}{:else}<details>
        <summary>{part.words}: {many(part.inner.length, 'step')}</summary>
        <ol>
          {#each part.inner as inside, k (k)}<li>{sentenceText([inside])}</li>{/each}
        </ol>
      </details>{/if}</span
  >{#if part === lastStep}<span class="quiet" aria-hidden="true">{DOT}</span>
    <details>
      <summary>{many(beyond.size, 'more step')}</summary>
      <ol>
        {#each beyond as step, k (k)}<li>{sentenceText([step])}</li>{/each}
      </ol>
    </details>{/if}{/each}

<style>
  details {
    display: inline;
  }
  details[open] {
    display: block;
  }
  summary {
    display: inline;
    cursor: pointer;
    text-decoration: underline;
  }
  ol {
    list-style: decimal;
    padding-left: 24px;
  }
</style>
