<script lang="ts">
  import { enhance } from '$app/forms';
  import Threshold from '$lib/ui/frame/Threshold.svelte';
  import type { LinkAct } from '$lib/core/message/acts.ts';
  import { setContext } from 'svelte';
  import DateField from '$lib/ui/form/date/DateField.svelte';
  import { DaysSource } from '$lib/ui/form/date/days-source.ts';
  import type { ActionData, PageData } from './$types';

  let { data, form }: { data: PageData; form: ActionData } = $props();

  const TITLES: Record<LinkAct, string> = {
    done: 'Is it done?',
    promise: 'By when will it be done?',
    date: 'Change date',
    later: 'Remind me later',
    yes: 'Your answer',
    no: 'Your answer',
    change: 'Your answer'
  };
  const PRESSES: Partial<Record<LinkAct, string>> = {
    done: 'Finish the task',
    yes: 'Answer yes',
    no: 'Answer no',
    change: 'I will change the task'
  };
  const { link } = $derived(data);
  setContext(
    'days',
    new DaysSource(
      () => link!.today,
      () => Promise.resolve(link!.days)
    )
  );
</script>

<Threshold title={form?.done ? 'Thank you' : link ? TITLES[link.act] : 'This link'}>
  {#if form?.done}
    <p role="status">{form.done}</p>
    {#if form.undoable}
      <form method="POST" action="?/undo" use:enhance>
        <button class="button press">Undo</button>
      </form>
    {/if}
    <p class="quiet">You can close this page, or <a href="/">open Early Bell</a>.</p>
  {:else if link}
    {#if form?.problem}<p class="band brick" role="alert"><b>Not saved</b><span>{form.problem}</span></p>{/if}
    <div>
      <p class="task">{link.task}</p>
      <p class="quiet">
        {link.project ?? 'no project'}{link.due ? ` · due ${link.due}` : ''}{link.left
          ? `, ${link.left}`
          : ''} · for {link.reader}
      </p>
      {#if link.question}<p class="question">{link.question}</p>{/if}
    </div>
    <form method="POST" action="?/do" class="grid gap-2" use:enhance>
      {#if PRESSES[link.act]}
        <button class="button main press">{PRESSES[link.act]}</button>
      {:else}
        {#each link.choices as { words, value } (value)}
          <button class="button press" name="value" {value}>{words}</button>
        {/each}
        {#if link.act === 'promise'}<button class="button press">No date yet</button>{/if}
        {#if link.act === 'date' || link.act === 'promise'}
          <label class="quiet" for="picked">or on</label>
          <span class="pick">
            <DateField id="picked" class="press" name="picked" min={link.today} />
            <button class="button press">Set this date</button>
          </span>
        {/if}
      {/if}
    </form>
    <p class="quiet">This link works once. Press a button to confirm.</p>
  {:else}
    <p class="band brick" role="alert">
      <b>This link no longer works</b><span>{form?.problem ?? data.problem}</span>
    </p>
    <p class="quiet"><a href="/">Open Early Bell</a> to see the task.</p>
  {/if}
</Threshold>

<style>
  .task {
    font-weight: 650;
    font-size: 17px;
  }
  .question {
    margin-top: 8px;
  }
  .press {
    min-height: 44px;
    justify-content: center;
    font-size: 15px;
  }
  .pick {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
  }
  .pick :global(.date) {
    flex: 1;
  }
</style>
