<script lang="ts">
  import Threshold from '$lib/ui/frame/Threshold.svelte';
  import type { PageData } from './$types';

  let { data }: { data: PageData } = $props();
  const { message } = $derived(data);
</script>

<Threshold title={message ? 'What would you like to do?' : 'This link'}>
  {#if message}
    {#each message.items as { subject, taskId, acts } (taskId + subject)}
      <section class="grid gap-2" aria-label={subject}>
        <p class="task">{subject}</p>
        {#each acts as { words, path } (path)}
          <a class="button press" href={path}>{words}</a>
        {:else}
          <p class="quiet">There is nothing left to press here.</p>
        {/each}
        <a class="quiet" href="/tasks/{taskId}">Open the task in Early Bell</a>
      </section>
    {/each}
    <p class="quiet">For {message.reader}. Nothing happens before you press on the next page.</p>
  {:else}
    <p class="band brick" role="alert"><b>It does nothing any more</b><span>{data.problem}</span></p>
    <p class="quiet"><a href="/">Open Early Bell</a> to see your tasks.</p>
  {/if}
</Threshold>

<style>
  .task {
    font-weight: 650;
    font-size: 17px;
  }
  .press {
    min-height: 44px;
    justify-content: center;
    font-size: 15px;
  }
</style>
