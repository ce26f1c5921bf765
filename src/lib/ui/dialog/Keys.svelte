<script lang="ts">
  import Dialog from './Dialog.svelte';

  /** The keys, and where they work. */
  let { onclose }: { onclose: () => void } = $props();

  const KEYS: readonly [where: string, keys: [string, string][]][] = [
    [
      'Everywhere',
      [
        ['/ or Ctrl+K', 'Go to a task, person, rule, project or place'],
        ['n', 'Add a task in one line'],
        ['k', 'Keep a line, without a duty'],
        ['Ctrl+Z', 'Undo the last change'],
        ['?', 'Show these keys'],
        ['Esc', 'Close what opened last']
      ]
    ],
    [
      'In the task list',
      [
        ['↑ ↓', 'Move from row to row'],
        ['Enter', 'Open the task'],
        ['Space', 'Select the row, with Shift all between'],
        ['d · o · s · p', 'Change date, owner, status, priority'],
        ['f · u', 'Finish, stuck on others'],
        ['a · z · h · c', 'Open to acknowledge, snooze, hush, comment'],
        ['Ctrl+A', 'Select all rows shown']
      ]
    ],
    [
      'On a task',
      [
        ['f', 'Finish'],
        ['d', 'Change date'],
        ['u', 'Stuck on others'],
        ['a', 'Acknowledge'],
        ['z', 'Snooze'],
        ['h', 'Hush'],
        ['c', 'Comment']
      ]
    ],
    [
      'On the Desk, at a task',
      [
        ['↑ ↓', 'Move from task to task'],
        ['t · n · w · d', 'For today, the next working day, the week after, another date'],
        ['l · p · b', 'Leave it, park it, not mine'],
        ['f', 'Finish'],
        ['Alt+↑ Alt+↓', 'Move it in your own order of today']
      ]
    ],
    ['In a date field', [['↓', 'Open the calendar, or choose between two meanings']]]
  ];
</script>

<Dialog label="Keys" open {onclose}>
  <h2>Keys</h2>
  {#each KEYS as [where, keys] (where)}
    <h3>{where}</h3>
    <dl>
      {#each keys as [key, does] (key)}
        <div>
          <dt><kbd>{key}</kbd></dt>
          <dd>{does}</dd>
        </div>
      {/each}
    </dl>
  {/each}
  <p class="close"><button class="button" onclick={onclose}>Close</button></p>
</Dialog>

<style>
  h3 {
    margin: 12px 0 4px;
    font-weight: 600;
    font-size: 13px;
  }
  dl div {
    display: grid;
    grid-template-columns: 130px 1fr;
    padding: 2px 0;
    font-size: 13px;
  }
  kbd {
    border: 1px solid var(--line);
    border-radius: 4px;
    padding: 1px 6px;
    font-size: 12px;
  }
  .close {
    margin-top: 14px;
  }
</style>
