<script lang="ts">
  import { many } from '$lib/core/many.ts';
  import { movesAnything, type EffectLine, type EffectView } from '$lib/view/effects.ts';

  import Changed from '$lib/ui/record/Changed.svelte';
  import AtOnce from './AtOnce.svelte';
  import Counted from './Counted.svelte';

  /** What a change would do, before it is saved: counts, and the list below each. */
  interface Props {
    effect: EffectView;
    /** Changed tasks is said by whoever shows this. */
    changedElsewhere?: boolean;
  }
  let { effect, changedElsewhere = false }: Props = $props();

  const changed = $derived(effect.atOnce?.changed ?? { things: [], more: 0 });
  const changes = $derived(changed.things.length + changed.more);
  const areTasks = $derived(changed.things.every(({ taskId }) => taskId !== null));

  const KINDS: readonly [EffectLine['kind'], (count: number) => string][] = [
    ['moved', (n) => many(n, 'bell moves', 'bells move')],
    ['added', (n) => many(n, 'bell added', 'bells added')],
    ['gone', (n) => many(n, 'bell removed', 'bells removed')],
    ['overdue', (n) => many(n, 'becomes overdue', 'become overdue')],
    ['due', (n) => many(n, 'due time moves', 'due times move')],
    ['ages', (n) => many(n, 'task changes its days overdue', 'tasks change their days overdue')]
  ];
</script>

{#if changes > 1 && !changedElsewhere}
  <Counted
    words={areTasks
      ? many(changes, 'task changes', 'tasks change')
      : many(changes, 'thing changes', 'things change')}
    count={changes}
    listed={changed.things.length}
    openUpTo={3}
  >
    <Changed things={changed.things} more={0} caption="Changed tasks" />
  </Counted>
{/if}
{#if effect.atOnce}<AtOnce atOnce={effect.atOnce} />{/if}
{#if !movesAnything(effect)}
  <p class="quiet">No change in the next {effect.days} days.</p>
{:else}
  {#if effect.atOnce}<p class="quiet">In the next {effect.days} days:</p>{/if}
  {#each KINDS as [kind, words] (kind)}
    {#if effect.counts[kind] > 0}
      {@const lines = effect.lines.filter((line) => line.kind === kind)}
      <Counted words={words(effect.counts[kind])} count={effect.counts[kind]} listed={lines.length}>
        <table>
          <caption class="sr">{words(effect.counts[kind])}</caption>
          <thead><tr><th>Task</th><th>Now</th><th>After</th></tr></thead>
          <tbody>
            {#each lines as line, i (i)}
              <tr
                ><td
                  ><a href="/tasks/{line.taskId}">{line.task}</a>{#if line.who}<span class="quiet block"
                      >{line.who}{line.rule ? `, by “${line.rule}”` : ''}</span
                    >{/if}</td
                ><td>{line.before}</td><td>{line.after}</td></tr
              >
            {/each}
          </tbody>
        </table>
      </Counted>
    {/if}
  {/each}
{/if}

<style>
  .block {
    display: block;
  }
</style>
