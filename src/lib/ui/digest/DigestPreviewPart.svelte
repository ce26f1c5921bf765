<script lang="ts" module>
  import { many } from '$lib/core/many.ts';
  /** A digest as somebody would get it. */
  export interface Preview {
    subject: string;
    text: string;
    html: string;
    files: string[];
    stages: { looked: number; found: number; shown: number; kept: number; readers: number };
    isEmpty: boolean;
  }
</script>

<script lang="ts">
  import { untrack } from 'svelte';
  import TimeField from '$lib/ui/form/date/TimeField.svelte';
  import Pick from '$lib/ui/pick/Pick.svelte';
  import { namedOptions } from '$lib/ui/pick/option.ts';
  import DateField from '../form/date/DateField.svelte';

  /** What somebody would get at a moment, from the facts as they stand. */
  interface Props {
    readers: readonly { id: number; name: string }[];
    /** It goes to all together, so it is nobody’s own. */
    together: boolean;
    me: number;
    now: { date: string; time: string };
    place: string;
    /** What the digest says: another saying is shown anew. */
    says: string;
    onpreview: (person: number, date: string, time: string) => Promise<Preview | string>;
  }

  let { readers, together, me, now, place, says, onpreview }: Props = $props();
  let chosen = $state<number | null>(null);
  let date = $state(untrack(() => now.date));
  let time = $state(untrack(() => now.time));
  let side = $state<'page' | 'phone' | 'text'>('page');
  let shown = $state.raw<Preview | null>(null);
  let fault = $state('');
  let asked = 0;

  const reader = $derived(
    together ? 0 : ((readers.find(({ id }) => id === (chosen ?? me)) ?? readers[0])?.id ?? null)
  );

  $effect(() => {
    void says;
    const [person, day, minute] = [reader, date, time];
    const own = ++asked;
    if (person === null || !day || !minute) {
      shown = null;
      fault = person === null ? 'It has no recipients yet.' : '';
      return;
    }
    // While somebody types, only the last is asked for.
    const timer = setTimeout(async () => {
      const answer = await onpreview(person, day, minute);
      if (own !== asked) return;
      if (typeof answer === 'string') fault = answer;
      else [shown, fault] = [answer, ''];
    }, 250);
    return () => clearTimeout(timer);
  });

  const SIDES = { page: 'as a page', phone: 'on a phone', text: 'as text' } as const;
</script>

<section aria-labelledby="preview">
  <h2 id="preview">Preview</h2>
  <div class="asks">
    {#if together}<span>one for all</span>
    {:else}
      <span class="quiet">for</span>
      <Pick
        label="Whose digest"
        options={namedOptions(readers)}
        value={reader}
        onchange={(id) => (chosen = id)}
      />
    {/if}
    <span class="quiet">on</span>
    <DateField
      live
      label="Day of the preview"
      value={date}
      onchange={(day) => day !== null && (date = day)}
    />
    <span class="quiet">at</span>
    <TimeField
      class="value time"
      value={time}
      label="Time of the preview"
      onchange={(minute) => minute !== null && (time = minute)}
    />
    <span class="quiet">in {place}</span>
    <span class="sides" role="group" aria-label="Layout">
      {#each Object.entries(SIDES) as [key, words] (key)}
        <button
          type="button"
          class="button"
          class:in={side === key}
          aria-pressed={side === key}
          onclick={() => (side = key as keyof typeof SIDES)}>{words}</button
        >
      {/each}
    </span>
  </div>
  {#if fault}<p class="fault" role="alert">{fault}</p>{/if}
  {#if shown}
    <p class="stages quiet" data-testid="stages">
      {many(shown.stages.looked, 'task')} checked · {shown.stages.found} in a section · {shown.stages.shown} shown
      ·
      {many(shown.stages.kept, 'kept notice')} · {many(shown.stages.readers, 'recipient')}{shown.files
        .length > 0
        ? ` · attached: ${shown.files.join(', ')}`
        : ''}
    </p>
    {#if shown.isEmpty}<p class="nothing">It would be empty and not sent.</p>{/if}
    <p class="subject"><span class="quiet">Subject</span> {shown.subject}</p>
    {#if side === 'text'}
      <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
      <pre class="sheet" tabindex="0">{shown.text}</pre>
    {:else}
      <!-- The message is somebody's words: it is shown without scripts, forms or a way out of its frame. -->
      <iframe class:phone={side === 'phone'} title="The digest as a page" sandbox="" srcdoc={shown.html}
      ></iframe>
    {/if}
  {/if}
</section>

<style>
  .asks {
    display: flex;
    flex-wrap: wrap;
    gap: 5px 6px;
    align-items: center;
    margin-top: 6px;
    font-size: 13px;
  }
  .asks :global(.time) {
    width: 60px;
    text-align: center;
  }
  .sides {
    display: flex;
    gap: 4px;
    margin-left: auto;
  }
  .in {
    background: var(--ink);
    color: var(--paper);
    border-color: var(--ink);
  }
  .stages {
    margin: 8px 0 4px;
    font-size: 12.5px;
    font-variant-numeric: tabular-nums;
  }
  .nothing {
    color: var(--slate);
  }
  .subject {
    font-weight: 600;
    margin-bottom: 8px;
    overflow-wrap: anywhere;
  }
  .subject .quiet {
    font-weight: 400;
    margin-right: 6px;
  }
  iframe {
    width: 100%;
    height: 520px;
    border: 1px solid var(--line);
    border-radius: 9px;
    background: #f6f2e9;
    color-scheme: light;
  }
  iframe.phone {
    width: 390px;
    max-width: 100%;
  }
  pre {
    max-height: 520px;
    overflow: auto;
    padding: 14px 16px;
    white-space: pre-wrap;
    overflow-wrap: anywhere;
    font:
      12.5px/1.5 ui-monospace,
      monospace;
  }
</style>
