<script lang="ts">
  import { agree, many } from '$lib/core/many.ts';
  import type { HindsightView } from '$lib/view/rule-trials.ts';

  /** What the rule would have done in the last four weeks. */
  interface Props {
    past: HindsightView | null;
    /** It is being looked at now. */
    looking: boolean;
    /** The rule has been changed since it was looked at. */
    stale: boolean;
    problem: string;
    onlook: () => void;
    onleave: () => void;
  }

  let { past, looking, stale, problem, onlook, onleave }: Props = $props();
  const listed = $derived(past?.rows.length ?? 0);
  const all = $derived(past ? past.sent + past.unrung.reduce((sum, { count }) => sum + count, 0) : 0);
</script>

<div aria-live="polite" aria-busy={looking}>
  {#if looking}
    <p class="quiet">
      Checking the last four weeks on a copy …
      <button type="button" class="button" onclick={onleave}>Cancel</button>
    </p>
  {:else if problem}
    <p class="fault" role="alert">{problem}</p>
  {/if}
  {#if past && !looking}
    <p>
      On since {past.from}, it would have sent <b>{past.sent}</b>
      {agree(past.sent, 'notice', 'notices')} about <b>{past.tasks}</b>
      {agree(past.tasks, 'task', 'tasks')} to <b>{past.people}</b>
      {agree(past.people, 'person', 'people')}{past.changes > 0
        ? ` and made ${many(past.changes, 'change')}`
        : ''}. {#if past.really > 0}It was on part of the time and sent <b>{past.really}</b>.{/if}
    </p>
    <p class="quiet">
      Dates, owners, statuses and calendars are as they were then. Other rules are not included.{past.short
        ? ' There are no older records.'
        : ''}
      {#if stale}The rule has been changed since.
        <button type="button" class="button" onclick={onlook}>Look again</button>{/if}
    </p>
    {#if past.unrung.length > 0}
      <p class="quiet">
        Not sent: {past.unrung.map(({ reason, count }) => `${count} ${reason}`).join(', ')}.
      </p>
    {/if}
    {#if listed > 0}
      <table>
        <caption class="sr">Notices of the last four weeks, sent and not sent</caption>
        <thead><tr><th>Left</th><th>Task</th><th>Tells</th></tr></thead>
        <tbody>
          {#each past.rows as row, i (i)}
            <tr class:unrung={row.unrung !== null}>
              <td class="whitespace-nowrap"
                >{row.at.there}
                <span class="quiet block">{row.at.place}{row.at.here ? ` · ${row.at.here} here` : ''}</span
                ></td
              >
              <td
                >{#if row.taskId !== null}<a href="/tasks/{row.taskId}">{row.task}</a
                  >{:else}{row.task}{/if}</td
              >
              <td
                >{row.reader}{#if row.unrung !== null}<span class="quiet block">not sent: {row.unrung}</span
                  >{/if}</td
              >
            </tr>
          {/each}
        </tbody>
      </table>
      {#if all > listed}<p class="quiet">{all - listed} more are not listed.</p>{/if}
    {/if}
  {/if}
</div>

<style>
  .unrung td {
    color: var(--ink-2);
  }
</style>
