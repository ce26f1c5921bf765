<script lang="ts">
  import type { TrialView } from '$lib/view/rule-trials.ts';

  /** A rule tried on one task: what would come, as it would be received. */
  interface Props {
    /** Null while they are looked for. */
    tasks: readonly { id: number; name: string }[] | null;
    trial: TrialView | null;
    /** Why it could not be tried; empty when it could. */
    problem: string;
    ontry: (taskId: number) => void;
    /** Sends whoever looks one message of the trial; what came of it, in a sentence. */
    onsend: (key: string) => Promise<{ arrived: boolean; words: string }>;
  }

  let { tasks, trial, problem, ontry, onsend }: Props = $props();
  const listId = $props.id();
  let typed = $state('');

  /** Which message was sent last, and what came of it; null while its answer is waited for. */
  let sent = $state<{ key: string; result: { arrived: boolean; words: string } | null } | null>(null);

  async function send(key: string) {
    sent = { key, result: null };
    const result = await onsend(key);
    if (sent.key === key) sent = { key, result };
  }

  function choose() {
    const wanted = typed.trim().toLowerCase();
    const found =
      tasks?.find(({ name }) => name.toLowerCase() === wanted) ??
      tasks?.find(({ name }) => wanted !== '' && name.toLowerCase().includes(wanted));
    if (found) {
      typed = found.name;
      ontry(found.id);
    }
  }
</script>

<div class="choose">
  <label for="{listId}-task">Try it on</label>
  <input
    id="{listId}-task"
    class="value"
    list={listId}
    placeholder="a task, by its name"
    bind:value={typed}
    onchange={choose}
  />
  <datalist id={listId}
    >{#each tasks ?? [] as task (task.id)}<option value={task.name}></option>{/each}</datalist
  >
  <span class="quiet">nothing is changed, and nobody else is told</span>
</div>
{#if problem}<p class="fault" role="alert">{problem}</p>{/if}
{#if trial}
  <div aria-live="polite">
    {#if trial.against.length > 0}
      <p class="band">
        <b>Not watched</b><span>“{trial.task}” is outside the Watch: {trial.against.join('; ')}.</span>
      </p>
    {/if}
    {#each trial.parts as part, i (i)}
      {#if part.asIf}<h3>If now: {part.asIf}</h3>{/if}
      {#each part.entries as entry, k (k)}
        <article class="entry">
          <p class="when">
            <b>{entry.at.there}</b>
            <span class="quiet">{entry.at.place}{entry.at.here ? ` · ${entry.at.here} here` : ''}</span>
          </p>
          <div>
            {#if entry.message}{@const message = entry.message}
              <p>
                to {entry.words}
                <span class="quiet"
                  >{message.to.join(', ')}{message.important ? ' · marked as important' : ''}{message.files
                    .length > 0
                    ? ` · with ${message.files.join(', ')}`
                    : ''}</span
                >
              </p>
              <details>
                <summary><b>{message.subject}</b></summary>
                <pre>{message.text}</pre>
              </details>
              {@const waits = sent?.key === message.key && sent.result === null}
              <button type="button" class="button" disabled={waits} onclick={() => send(message.key)}
                >{waits ? 'Waiting for the server’s answer…' : 'Send this to me now'}</button
              >
              {#if sent?.key === message.key && sent.result}
                <p class="band {sent.result.arrived ? 'sea' : 'brick'}" role="status">
                  <b>{sent.result.arrived ? 'Sent to you' : 'Not sent'}</b><span>{sent.result.words}</span>
                </p>
              {/if}
            {:else}<p class:quiet={entry.is === 'unrung'}>
                {entry.is === 'unrung' ? `not sent: ${entry.words}` : entry.words}
              </p>{/if}
            {#if entry.why.length > 0}
              <details class="quiet">
                <summary>Why?</summary>
                <ol>
                  {#each entry.why as step, n (n)}<li>{step}</li>{/each}
                </ol>
              </details>
            {/if}
          </div>
        </article>
      {:else}
        <p class="quiet">
          {part.asIf
            ? 'Nothing would happen.'
            : `It does not ring for this task in the next 90 days${part.notes.length > 0 ? `: ${part.notes.join('; ')}` : ''}.`}
        </p>
      {/each}
    {/each}
  </div>
{/if}

<style>
  .choose {
    display: flex;
    flex-wrap: wrap;
    gap: 6px 9px;
    align-items: center;
    font-size: 13px;
  }
  .choose input {
    flex: 1 1 220px;
  }
  h3 {
    margin-top: 10px;
    font-size: 13px;
  }
  .entry {
    display: grid;
    grid-template-columns: 132px minmax(0, 1fr);
    gap: 4px 12px;
    padding: 8px 0;
    border-bottom: 1px solid var(--line-soft);
    font-size: 13px;
  }
  .entry .button {
    margin: 5px 0 3px;
  }
  .when {
    font-variant-numeric: tabular-nums;
  }
  pre {
    white-space: pre-wrap;
    overflow-wrap: anywhere;
    font: inherit;
    background: var(--sheet);
    border: 1px solid var(--line-soft);
    border-radius: 7px;
    padding: 9px 11px;
    margin-top: 5px;
  }
  summary {
    cursor: pointer;
  }
  ol {
    padding-left: 18px;
    list-style: decimal;
  }
</style>
