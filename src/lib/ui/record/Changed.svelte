<script lang="ts">
  import type { ChangedThing } from '$lib/view/changed-things.ts';

  /** What was changed, or would be: each thing with its values, before and after. */
  let { things, more, caption }: { things: readonly ChangedThing[]; more: number; caption: string } =
    $props();
</script>

<table>
  <caption class="sr">{caption}</caption>
  <thead><tr><th>What</th><th>Before</th><th>After</th></tr></thead>
  <tbody>
    {#each things as thing, i (i)}
      <tr>
        <td
          >{#if thing.taskId}<a href="/tasks/{thing.taskId}">{thing.name}</a
            >{:else}{thing.name}{/if}{#if thing.as}<span class="quiet">, {thing.as}</span>{/if}</td
        >
        <td
          >{#each thing.values as { field, before }, j (j)}<span class="line"
              ><span class="quiet">{field}</span> {before}</span
            >{/each}</td
        >
        <td
          >{#each thing.values as { after }, j (j)}<span class="line">{after}</span>{/each}</td
        >
      </tr>
    {/each}
  </tbody>
</table>
{#if more > 0}<p class="quiet">and {more.toLocaleString('en')} more</p>{/if}

<style>
  .line {
    display: block;
  }
</style>
