<script lang="ts">
  import { getContext } from 'svelte';
  import type { Deed } from '$lib/core/access/deeds.ts';
  import type { FurtherBells } from '$lib/view/bell-series.ts';
  import type { BellView } from '$lib/view/models.ts';
  import Turn from '../table/Turn.svelte';
  import Under from '../table/Under.svelte';
  import BellWord from './BellWord.svelte';

  interface Props {
    bells: readonly BellView[];
    /** What the table lists, for those who hear it. */
    caption: string;
    /** What follows a row in the same way, and is not listed. */
    further?: readonly FurtherBells[];
    /** The row whose why is open. */
    opened?: string | null;
    showRule?: boolean;
    showTask?: boolean;
    showPerson?: boolean;
  }

  let {
    bells,
    caption,
    further = [],
    opened = $bindable(null),
    showRule = true,
    showTask = true,
    showPerson = true
  }: Props = $props();

  const may = getContext<(deed: Deed) => boolean>('may');
  const columns = $derived(2 + [showRule, showTask, showPerson].filter(Boolean).length);
  const after = $derived(new Map(further.map((one) => [one.afterKey, one])));
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
          <Turn open={opened === bell.key} controls="why-{bell.key}" onpress={() => toggle(bell.key)}>
            <span class="moment">{bell.time.there}</span>
            <span class="quiet">{bell.time.place}{bell.time.here ? ` · ${bell.time.here} here` : ''}</span>
          </Turn>
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
        <Under id="why-{bell.key}" {columns}>
          <p class="quiet">{bell.lead}</p>
          <ol>
            {#each bell.why as step, i (i)}<li>{step}</li>{/each}
          </ol>
        </Under>
      {/if}
      {@const more = after.get(bell.key)}
      {#if more}
        <tr class="again">
          <td colspan={columns}
            >↳ {more.count} more like this one{showRule ? `, “${bell.ruleName}”` : ''} to {bell.readerName},
            until {more.until}</td
          >
        </tr>
      {/if}
    {/each}
  </tbody>
</table>

<style>
  .moment {
    white-space: nowrap;
  }
  .block {
    display: block;
  }
  .again td {
    color: var(--ink-2);
    padding-left: 18px;
  }
  .unrung {
    color: var(--ink-2);
  }
</style>
