<script lang="ts">
  import { many } from '$lib/core/many.ts';
  import { parseDay } from '$lib/core/time/day.ts';
  import { shortDay } from '$lib/core/time/format.ts';
  import Dialog from '$lib/ui/dialog/Dialog.svelte';
  import AskDay from './AskDay.svelte';
  import AskWord from './AskWord.svelte';
  import DayBar from './DayBar.svelte';
  import Moved from './Moved.svelte';
  import { dayTarget } from './carried.ts';
  import type { Asking, Placer } from './placer.svelte.ts';

  /** Asks for when tasks are to be done, and, where one would be late or has no date, for its due date. */
  let { placer, asking }: { placer: Placer; asking: Asking } = $props();

  const { tasks } = $derived(asking);
  const today = $derived(placer.desk.today.date);
  const words = $derived(tasks.length === 1 ? `“${tasks[0]!.name}”` : `these ${many(tasks.length, 'task')}`);
  const personId = $derived(placer.desk.person.id);
  /** What more of them would move is not looked at before. */
  const MOST_LOOKED_AT = 100;
  const choices = $derived([
    ...(tasks.every(({ place }) => place === 'today') ? [] : [{ key: 'T', target: placer.targets.today }]),
    ...(placer.targets.next ? [{ key: 'N', target: placer.targets.next }] : []),
    { key: 'W', target: placer.targets.after }
  ]);
  const LABEL = { T: 'Today', N: 'The next working day', W: 'The week after' } as Record<string, string>;

  function onkeydown(event: KeyboardEvent) {
    if (asking.step !== 'where' || event.ctrlKey || event.metaKey || event.altKey) return;
    if (placer.key(event.key, tasks)) event.preventDefault();
  }
</script>

{#snippet cancel()}
  <button class="button" onclick={() => (placer.asking = null)}>Cancel</button>
{/snippet}

<Dialog label="For when: {words}" open onclose={() => (placer.asking = null)}>
  <!-- svelte-ignore a11y_no_static_element_interactions -->
  <div class="steps" {onkeydown}>
    {#if asking.step === 'where'}
      <h2>When will you do {words}?</h2>
      <ul>
        {#each choices as { key, target } (key)}
          <li>
            <button class="choice" onclick={() => void placer.place(tasks, target)}>
              <kbd>{key}</kbd><b>{LABEL[key]}</b><span class="quiet">{target.words}</span>
              {#if target.to === 'day'}
                {@const lived = placer.livedOn(target.first)}
                {#if lived}<span class="lived quiet">{lived.words}</span><span class="lived"
                    ><DayBar
                      hours={placer.desk.hours}
                      lit={lived.day.lit}
                      away={lived.day.away}
                      bells={lived.bells}
                    /></span
                  >{/if}
              {/if}
            </button>
          </li>
        {/each}
        <li>
          <button class="choice" onclick={() => (placer.asking = { step: 'date', tasks })}>
            <kbd>D</kbd><b>Another date</b><span class="quiet">you choose</span>
          </button>
        </li>
        {#if tasks.length === 1}
          <li>
            <button class="choice" onclick={() => (placer.asking = { step: 'park', tasks })}>
              <kbd>P</kbd><b>Park it</b><span class="quiet">until a review date</span>
            </button>
          </li>
          <li>
            <button class="choice" onclick={() => (placer.asking = { step: 'back', tasks })}>
              <kbd>B</kbd><b>Not mine</b><span class="quiet">back to the person who gave it</span>
            </button>
          </li>
        {/if}
      </ul>
      <p class="quiet">A planned day is yours alone. The due date and its notices stay as they are.</p>
    {:else if asking.step === 'date'}
      <h2>When will you do {words}?</h2>
      <AskDay label="Date" min={today} {personId}>
        {#snippet children(date)}
          <p class="answers">
            <button
              class="button main"
              disabled={!date}
              onclick={() => date && void placer.place(tasks, dayTarget(date, today))}>Plan it</button
            >
            {@render cancel()}
          </p>
        {/snippet}
      </AskDay>
    {:else if asking.step === 'due'}
      {@const { target, carried } = asking}
      {#if carried.late.length > 0}
        <h2>
          A new due date for {carried.late.length === 1
            ? `“${carried.late[0]!.name}”`
            : many(carried.late.length, 'task')}
        </h2>
        <p>
          {#if carried.late.length === 1}It is due {shortDay(
              parseDay(carried.late[0]!.due!),
              parseDay(today)
            )}, before
          {:else}They are due before{/if}
          {target.words}. A new due date is a slip: it is counted, and its notices move.
        </p>
        <AskDay label="New due date" value={carried.newDue} min={target.first} {personId}>
          {#snippet children(newDue)}
            {#if newDue !== null && carried.late.length <= MOST_LOOKED_AT}
              <Moved
                body={{
                  taskIds: carried.late.map(({ id }) => id),
                  to: target.to,
                  day: target.to === 'day' ? target.first : null,
                  newDue
                }}
              />
            {/if}
            <p class="answers">
              <button
                class="button main"
                disabled={newDue === null}
                onclick={() => newDue && void placer.send(tasks, target, { newDue })}
                >Save the new date</button
              >
              {#if carried.mayKeepDue}<button
                  class="button"
                  onclick={() => void placer.send(tasks, target, { keepDue: true })}
                  >Keep the due date, plan it {target.words}</button
                >{/if}
              {@render cancel()}
            </p>
          {/snippet}
        </AskDay>
      {:else}
        <h2>
          Is {target.to === 'today' || target.to === 'day'
            ? target.words
            : shortDay(parseDay(carried.newDue), parseDay(today))} its due date too?
        </h2>
        <p>
          {carried.undated.length === 1
            ? `“${carried.undated[0]!.name}” has`
            : `${many(carried.undated.length, 'task has', 'tasks have')}`} no due date. Without one, no rule can
          see it.
        </p>
        <p class="answers">
          <button
            class="button main"
            onclick={() => void placer.send(tasks, target, { asDue: true, newDue: carried.newDue })}
            >Yes, due then</button
          >
          <button class="button" onclick={() => void placer.send(tasks, target, { asDue: false })}
            >No, only planned</button
          >
          {@render cancel()}
        </p>
      {/if}
    {:else if asking.step === 'park'}
      <h2>Park {words}</h2>
      <p class="quiet">It stands with you under Parked, without a commitment. No rule sees it until then.</p>
      <AskDay label="Look at it again on" min={today} {personId}>
        {#snippet children(date)}
          <p class="answers">
            <button class="button main" disabled={!date} onclick={() => void placer.park(tasks[0]!, date)}
              >Park</button
            >
            {@render cancel()}
          </p>
        {/snippet}
      </AskDay>
    {:else}
      <h2>Not mine: {words}</h2>
      <p class="quiet">It goes back to the person who gave it, with your word as a comment.</p>
      <AskWord onsay={(word) => void placer.giveBack(tasks[0]!, word)} />
      <p class="answers">{@render cancel()}</p>
    {/if}
  </div>
</Dialog>

<style>
  .steps {
    display: grid;
    gap: 10px;
  }
  .choice {
    display: grid;
    grid-template-columns: 30px 1fr auto;
    gap: 8px;
    align-items: center;
    width: 100%;
    min-height: 44px;
    padding: 4px 6px;
    border-bottom: 1px solid var(--line-soft);
    text-align: left;
    cursor: pointer;
  }
  .choice:hover {
    background: var(--lit);
  }
  .lived {
    grid-column: 2 / -1;
    font-size: 12.5px;
  }
  kbd {
    border: 1px solid var(--line);
    border-radius: 5px;
    padding: 2px 7px;
    background: var(--sheet);
    font: inherit;
    font-weight: 600;
    font-size: 12.5px;
    text-align: center;
  }
  .answers {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
  }
</style>
