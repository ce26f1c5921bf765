<script lang="ts">
  import ChevronRight from '@lucide/svelte/icons/chevron-right';
  import { getContext } from 'svelte';
  import type { Deed } from '$lib/core/access/deeds.ts';
  import type { BellView } from '$lib/view/models.ts';
  import BellWord from './BellWord.svelte';

  interface Props {
    bells: readonly BellView[];
    /** What the table lists, for those who hear it. */
    caption: string;
    /** The row whose why is open. */
    opened?: string | null;
    showRule?: boolean;
    showTask?: boolean;
    showPerson?: boolean;
  }

  let {
    bells,
    caption,
    opened = $bindable(null),
    showRule = true,
    showTask = true,
    showPerson = true
  }: Props = $props();

  const may = getContext<(deed: Deed) => boolean>('may');
  const columns = $derived(2 + [showRule, showTask, showPerson].filter(Boolean).length);
  const toggle = (key: string) => (opened = opened === key ? null : key);
</script>

<table>
  <caption class="sr">{caption}</caption>
  <thead>
    <tr>
      <th scope="col">Time</th>
      <th scope="col">Kind</th>
      {#if showTask}<th scope="col">Task</th>{/if}
      {#if showPerson}<th scope="col">To</th>{/if}
      {#if showRule}<th scope="col">Rule</th>{/if}
    </tr>
  </thead>
  <tbody>
    {#each bells as bell (bell.key)}
      <tr id="bell-{bell.key}" class:unrung={bell.unrung}>
        <td>
          <button
            type="button"
            class="time"
            aria-expanded={opened === bell.key}
            aria-controls="why-{bell.key}"
            onclick={() => toggle(bell.key)}
          >
            <span class="moment"
              ><span class="turn" class:open={opened === bell.key}><ChevronRight size={14} /></span>{bell.time
                .there}</span
            >
            <span class="quiet">{bell.time.place}{bell.time.here ? ` · ${bell.time.here} here` : ''}</span>
          </button>
        </td>
        <td>
          <BellWord kind={bell.kind} />
          {#if bell.unrung}<span class="quiet block">{bell.unrung}</span>{/if}
          {#if bell.inDoubt}<span class="quiet block">may have arrived twice</span>{/if}
          {#if bell.heldFrom}<span class="quiet block">from {bell.heldFrom.there}</span>{/if}
        </td>
        {#if showTask}<td
            >{#if bell.taskId > 0}<a href="/tasks/{bell.taskId}">{bell.taskName}</a>{:else}{bell.taskName}
              <span class="quiet block">not created yet</span>{/if}{#if bell.ifActs}<span class="quiet block"
                >only if “{bell.ifActs}” runs first</span
              >{/if}</td
          >{/if}
        {#if showPerson}<td
            >{bell.readerName}{#if bell.readerId !== bell.recipientId}<span class="quiet block"
                >for {bell.recipientName}</span
              >{/if}</td
          >{/if}
        {#if showRule}<td
            >{#if may('make rules')}<a href="/rules/{bell.ruleId}">{bell.ruleName}</a
              >{:else}{bell.ruleName}{/if}</td
          >{/if}
      </tr>
      {#if opened === bell.key}
        <tr class="why">
          <td colspan={columns} id="why-{bell.key}">
            <p class="quiet">{bell.lead}</p>
            <ol>
              {#each bell.why as step, i (i)}<li>{step.text}</li>{/each}
            </ol>
          </td>
        </tr>
      {/if}
    {/each}
  </tbody>
</table>

<style>
  .time {
    text-align: left;
    font-weight: 500;
    cursor: pointer;
    text-decoration: underline;
    text-decoration-color: var(--line);
    text-underline-offset: 3px;
  }
  .moment {
    white-space: nowrap;
  }
  .time:hover {
    text-decoration-color: currentColor;
  }
  .time .quiet {
    text-decoration: none;
    display: inline-block;
    margin-left: 2px;
  }
  .turn {
    display: inline-block;
    vertical-align: -2px;
    color: var(--ink-3);
    transition: transform 0.12s;
  }
  .turn.open {
    transform: rotate(90deg);
  }
  .block {
    display: block;
  }
  .unrung {
    color: var(--ink-2);
  }
  .why td {
    background: color-mix(in srgb, var(--brass-wash) 45%, transparent);
    padding: 8px 12px 10px 22px;
  }
  ol {
    list-style: decimal;
    padding-left: 18px;
    max-width: 76ch;
  }
  li {
    padding: 1px 0;
  }
  @media (prefers-reduced-motion: reduce) {
    .turn {
      transition: none;
    }
  }
</style>
