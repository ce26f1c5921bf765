<script lang="ts">
  import { untrack } from 'svelte';
  import type { DeskThingsView } from '$lib/view/desk.ts';
  import type { DeskAct } from './placer.svelte.ts';

  /** How a task begins that somebody types in one line, where the line says nothing else. */
  let { habit, act }: { habit: DeskThingsView['habit']; act: DeskAct } = $props();
  let edited = $state(
    untrack(() => ({ ...habit, dueDays: habit.dueDays === null ? '' : String(habit.dueDays) }))
  );
</script>

<details>
  <summary>How new tasks of mine begin</summary>
  <form
    onsubmit={(event) => {
      event.preventDefault();
      void act('habit', edited);
    }}
  >
    <label><input type="checkbox" bind:checked={edited.mine} /> Mine, unless I name somebody</label>
    <label
      ><input type="checkbox" disabled={!edited.mine} bind:checked={edited.private} /> Private: only I see them</label
    >
    <label class="due"
      >Due in
      <input
        class="value"
        inputmode="numeric"
        size="3"
        aria-label="Due in so many days"
        bind:value={edited.dueDays}
      />
      <select class="value" aria-label="Days or working days" bind:value={edited.dueUnit}>
        <option value="day">days</option>
        <option value="workday">working days</option>
      </select>
      <span class="quiet">empty: without a date</span></label
    >
    <button class="button">Save</button>
  </form>
</details>

<style>
  summary {
    min-height: 24px;
    color: var(--brass-ink);
    font-size: 12.5px;
    cursor: pointer;
  }
  form {
    display: grid;
    gap: 8px;
    justify-items: start;
    padding: 6px 0;
  }
  .due {
    display: flex;
    flex-wrap: wrap;
    gap: 6px;
    align-items: center;
  }
  @media (max-width: 900px) {
    summary,
    label,
    .button {
      min-height: 44px;
      align-content: center;
    }
  }
</style>
