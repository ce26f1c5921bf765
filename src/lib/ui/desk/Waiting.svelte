<script lang="ts">
  import type { WaitingView } from '$lib/view/desk.ts';
  import AskDay from './AskDay.svelte';
  import type { DeskAct } from './placer.svelte.ts';

  /** What waits for somebody's word, each answered where it stands. */
  interface Props {
    waiting: readonly WaitingView[];
    act: DeskAct;
    today: string;
    personId: number;
    onfinish: (one: WaitingView) => void;
  }

  let { waiting, act, today, personId, onfinish }: Props = $props();

  const KIND = {
    question: 'question',
    promise: 'promise ends today',
    'still needed': 'still needed?',
    acknowledge: 'to acknowledge',
    time: 'time to log',
    approval: 'promise to approve'
  } as const;
  const ANSWERS: Record<
    'question' | 'still needed' | 'approval',
    readonly [answer: string, label: string][]
  > = {
    question: [
      ['yes', 'Yes'],
      ['no', 'No']
    ],
    'still needed': [
      ['keep', 'Keep'],
      ['park', 'Park'],
      ['close', 'Close']
    ],
    approval: [
      ['yes', 'Approve'],
      ['no', 'Refuse']
    ]
  };
  /** So many stand there at once. */
  const FIRST = 6;
  let all = $state(false);
  const shown = $derived(all ? waiting : waiting.slice(0, FIRST));
  let promising = $state<string | null>(null);
  let time = $state<Record<string, string>>({});

  const say = (one: WaitingView, answer: string) => act('word', { kind: one.kind, id: one.id, answer });
</script>

<section aria-labelledby="waits">
  <h2 id="waits">Waits for your word <span class="count">{waiting.length}</span></h2>
  <ul>
    {#each shown as one (one.key)}
      <li>
        <span class="kind">{KIND[one.kind]}</span>
        <span class="what">
          <a href="/tasks/{one.taskId}">{one.task}</a>
          <span class="quiet">{one.words}{one.otherwise ? ` · ${one.otherwise}` : ''}</span>
        </span>
        <span class="answers">
          {#if one.kind === 'promise'}
            <button class="button" aria-label="Finish: {one.task}" onclick={() => onfinish(one)}
              >Finish</button
            >
            <a class="button" href="/tasks/{one.taskId}#do-change date">Change date</a>
          {:else if one.kind === 'acknowledge'}
            <button class="button" aria-label="I have seen it: {one.task}" onclick={() => void say(one, '')}
              >I have seen it</button
            >
            <button
              class="button"
              aria-label="Promise a date: {one.task}"
              aria-expanded={promising === one.key}
              onclick={() => (promising = promising === one.key ? null : one.key)}>Promise a date</button
            >
          {:else if one.kind === 'time'}
            <form
              onsubmit={(event) => {
                event.preventDefault();
                void say(one, time[one.key] ?? '');
              }}
            >
              <input
                class="value"
                aria-label="Time spent on {one.task}"
                placeholder="1:30"
                size="6"
                bind:value={time[one.key]}
              />
              <button class="button">Log time</button>
            </form>
          {:else}
            {#each ANSWERS[one.kind] as [answer, label] (answer)}
              <button class="button" aria-label="{label}: {one.task}" onclick={() => void say(one, answer)}
                >{label}</button
              >
            {/each}
          {/if}
        </span>
        {#if promising === one.key}
          <div class="promise">
            <AskDay label="Done by" min={today} {personId}>
              {#snippet children(date)}
                <button
                  class="button main"
                  disabled={!date}
                  onclick={async () => {
                    if (date && (await say(one, date))) promising = null;
                  }}>Promise</button
                >
              {/snippet}
            </AskDay>
          </div>
        {/if}
      </li>
    {/each}
  </ul>
  {#if waiting.length > shown.length}
    <button class="button plain" onclick={() => (all = true)}
      >Show the other {waiting.length - shown.length}</button
    >
  {/if}
</section>

<style>
  .count {
    font-weight: 450;
    color: var(--ink-2);
  }
  li {
    display: grid;
    grid-template-columns: 176px minmax(0, 1fr) auto;
    gap: 4px 12px;
    align-items: center;
    padding: 4px 0;
    border-bottom: 1px solid var(--line-soft);
  }
  .kind {
    color: var(--ink-2);
    font-size: 13px;
  }
  .what a {
    font-weight: 550;
    text-decoration: none;
    margin-right: 4px;
  }
  .answers,
  .answers form,
  .promise {
    display: flex;
    flex-wrap: wrap;
    gap: 6px;
    align-items: center;
  }
  .promise {
    grid-column: 2 / -1;
    align-items: end;
  }
  @media (max-width: 900px) {
    li {
      grid-template-columns: minmax(0, 1fr);
      padding: 8px 0;
    }
    .answers {
      justify-content: flex-end;
    }
    .answers .button {
      min-height: 44px;
    }
    .promise {
      grid-column: 1;
    }
  }
</style>
