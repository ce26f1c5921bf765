<script lang="ts">
  import { parseDay } from '$lib/core/time/day.ts';
  import { shortDay } from '$lib/core/time/format.ts';
  import type { ChoiceView, DeskTaskView } from '$lib/view/desk.ts';
  import AskDay from './AskDay.svelte';
  import AskWord from './AskWord.svelte';
  import Moved from './Moved.svelte';
  import { asksMore, type Decision } from './round.ts';

  /** What a choice of a round asks for before it is done. */
  interface Props {
    task: DeskTaskView;
    choice: ChoiceView;
    today: string;
    personId: number;
    ondecide: (decision: Decision) => void;
    oncancel: () => void;
  }

  let { task, choice, today, personId, ondecide, oncancel }: Props = $props();
  const place = (said: { day?: string | null; newDue?: string; keepDue?: boolean; asDue?: boolean }) =>
    ondecide({
      act: 'place',
      body: { taskIds: [task.id], to: choice.to, ...said, day: said.day ?? choice.day }
    });
</script>

<div class="asks">
  {#if choice.to === 'park'}
    <AskDay label="Look at it again on" min={today} {personId}>
      {#snippet children(date)}
        <button
          class="button main"
          disabled={!date}
          onclick={() => ondecide({ act: 'park', body: { taskId: task.id, reviewDate: date } })}
          >Park it</button
        >
      {/snippet}
    </AskDay>
  {:else if choice.to === 'back'}
    <AskWord onsay={(word) => ondecide({ act: 'back', body: { taskId: task.id, word } })} />
  {:else if asksMore(choice) === 'day'}
    <AskDay label="Date" min={today} {personId}>
      {#snippet children(day)}
        {#if day !== null && task.due !== null && day > task.due}
          <p class="quiet">That is after its due date. It becomes the new due date, which is a slip.</p>
          <Moved body={{ taskIds: [task.id], to: 'day', day, newDue: day }} />
          <button class="button main" onclick={() => place({ day, newDue: day })}>Save the new date</button>
        {:else if choice.asksAsDue}
          <button
            class="button main"
            disabled={day === null}
            onclick={() => place({ day, asDue: true, newDue: day! })}>Plan it, and due then</button
          >
          <button class="button" disabled={day === null} onclick={() => place({ day })}>Only plan it</button>
        {:else}
          <button class="button main" disabled={day === null} onclick={() => place({ day })}>Plan it</button>
        {/if}
      {/snippet}
    </AskDay>
  {:else if choice.asksDue}
    <AskDay label="New due date" value={choice.newDue} min={choice.day ?? today} {personId}>
      {#snippet children(newDue)}
        <button class="button main" disabled={newDue === null} onclick={() => place({ newDue: newDue! })}
          >Save the new date</button
        >
        {#if choice.mayKeepDue}
          <button class="button" onclick={() => place({ keepDue: true })}>Keep the due date</button>
        {/if}
        <p class="quiet">A new due date is a slip: it is counted, and its notices move.</p>
        {#if newDue !== null}<Moved
            body={{ taskIds: [task.id], to: choice.to, day: choice.day, newDue }}
          />{/if}
      {/snippet}
    </AskDay>
  {:else}
    {@const newDue = choice.newDue!}
    <p>
      Is {shortDay(parseDay(newDue), parseDay(today))} its due date too? Without one, no rule can see it.
    </p>
    <button class="button main" onclick={() => place({ asDue: true, newDue })}>Yes, due then</button>
    <button class="button" onclick={() => place({})}>No, only planned</button>
  {/if}
  <button class="button plain" onclick={oncancel}>Cancel</button>
</div>

<style>
  .asks {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
    align-items: end;
    padding: 10px 8px 12px 48px;
    border-bottom: 1px solid var(--line);
    background: var(--lit);
  }
  @media (max-width: 900px) {
    .asks {
      padding-left: 8px;
    }
    .asks :global(.button) {
      min-height: 44px;
    }
  }
</style>
