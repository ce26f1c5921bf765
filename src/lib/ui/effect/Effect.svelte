<script lang="ts">
  import { movesAnything, type EffectLine, type EffectView } from '$lib/view/effects.ts';

  import AtOnce from './AtOnce.svelte';
  import Counted from './Counted.svelte';

  /** What a change would do, before it is saved: counts, and the list below each. */
  let { effect }: { effect: EffectView } = $props();

  const KINDS: readonly [EffectLine['kind'], (count: number) => string][] = [
    ['moved', (n) => `${n} ${n === 1 ? 'bell moves' : 'bells move'}`],
    ['added', (n) => `${n} ${n === 1 ? 'bell comes' : 'bells come'}`],
    ['gone', (n) => `${n} ${n === 1 ? 'bell goes' : 'bells go'}`],
    ['overdue', (n) => `${n} ${n === 1 ? 'becomes' : 'become'} overdue`],
    ['due', (n) => `${n} due ${n === 1 ? 'moment moves' : 'moments move'}`],
    ['ages', (n) => `${n} overdue ${n === 1 ? 'age changes' : 'ages change'}`]
  ];
</script>

{#if effect.atOnce}<AtOnce atOnce={effect.atOnce} />{/if}
{#if !movesAnything(effect)}
  <p class="quiet">Nothing moves in the next {effect.days} days.</p>
{:else}
  {#if effect.atOnce}<p class="quiet">In the next {effect.days} days:</p>{/if}
  {#each KINDS as [kind, words] (kind)}
    {#if effect.counts[kind] > 0}
      {@const lines = effect.lines.filter((line) => line.kind === kind)}
      <Counted words={words(effect.counts[kind])} count={effect.counts[kind]} listed={lines.length}>
        <table>
          <caption class="sr">{words(effect.counts[kind])}</caption>
          <thead><tr><th>Task</th><th>Now</th><th>Then</th></tr></thead>
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
