<script lang="ts">
  import { agree, many } from '$lib/core/many.ts';
  import type { PastChoices } from '$lib/core/rule/model.ts';
  import type { CheckView } from '$lib/view/rule-trials.ts';

  /** What is said before a rule is turned on, and the yes to it. */
  interface Props {
    check: CheckView;
    /** It is on, and its draft becomes live. */
    live: boolean;
    past: PastChoices['turnedOn'];
    onpast: (choice: PastChoices['turnedOn']) => void;
    onclose: () => void;
  }

  let { check, live, past, onpast, onclose }: Props = $props();
  const waiting = $derived(check.withdraws.notices);
</script>

<section class="sheet check" aria-labelledby="check">
  <h2 id="check">{live ? 'Check before it becomes live' : 'Check before it is turned on'}</h2>
  <ul>
    <li>
      {#if check.week === 0}Sends nothing in the next seven days.{:else}In the next seven days it sends
        <b>{many(check.week, 'message')}</b>
        to {many(check.people, 'person', 'people')}{check.next.length > 0
          ? `, first ${check.next.join('; ')}`
          : ''}.{/if}
    </li>
    {#if check.atOnce && check.rush}
      <li class="brick-text">
        <b>{many(check.atOnce.count, 'message')} sent at once</b>
        on {check.atOnce.at}. Combine them or watch fewer tasks.
      </li>
    {/if}
    {#each check.silences as { rule, notices }, i (i)}
      <li class="brick-text">
        <b>{many(notices, 'notice')} of “{rule}” {agree(notices, 'is', 'are')} not sent</b> because of this rule:
        it tells the same person about the same task within one hour before. Change one of the times to send both.
      </li>
    {/each}
    {#if check.silenced > 0}
      <li>
        {many(check.silenced, 'notice')} of it {agree(check.silenced, 'is', 'are')} not sent: another rule tells
        the same person about the same task within one hour before.
      </li>
    {/if}
    {#if waiting > 0}
      <li>
        {many(waiting, 'notice')} that {agree(waiting, 'waits', 'wait')} to leave {agree(
          waiting,
          'is',
          'are'
        )} withdrawn: {check.withdraws.listed
          .map(({ task, person }) => `“${task}” to ${person}`)
          .join(', ')}{waiting > check.withdraws.listed.length
          ? ` and ${waiting - check.withdraws.listed.length} more`
          : ''}.
      </li>
    {/if}
    {#if check.past > 0}
      <li>
        <label
          >{many(check.past, 'ring')} of it {agree(check.past, 'lies', 'lie')} in the past:
          <select
            class="value"
            aria-label="Past ring times"
            value={past}
            onchange={(event) => onpast(event.currentTarget.value as PastChoices['turnedOn'])}
          >
            <option value="do not ring">skip them</option>
            <option value="latest at the next opening"
              >send the latest per task when it can next be told</option
            >
          </select></label
        >
      </li>
    {/if}
  </ul>
  <p class="acts">
    <button class="button main" formaction="?/turnOn">{live ? 'Make it live now' : 'Turn it on now'}</button>
    <button type="button" class="button" onclick={onclose}>Cancel</button>
  </p>
</section>

<style>
  .check {
    margin-top: 10px;
    padding: 12px 16px 14px;
    max-width: 900px;
  }
  ul {
    display: grid;
    gap: 5px;
    margin: 6px 0 12px;
    font-size: 13.5px;
    list-style: none;
    padding: 0;
  }
  .acts {
    display: flex;
    gap: 8px;
  }
</style>
