<script lang="ts">
  import type { AtOnceView } from '$lib/view/effects.ts';

  /** What leaves and is done in the minute of an act, by any rule: counted, and listed below. */
  let { atOnce }: { atOnce: AtOnceView } = $props();

  const many = (count: number, one: string, more: string) =>
    `${count.toLocaleString('en')} ${count === 1 ? one : more}`;
</script>

{#if atOnce.messages === 0}
  <p>No message leaves at once.</p>
{:else}
  <details open={atOnce.messages <= 8}>
    <summary
      >{many(atOnce.messages, 'message leaves', 'messages leave')} at once, to {many(
        atOnce.people,
        'person',
        'people'
      )}</summary
    >
    <table>
      <caption class="sr">Messages that leave at once</caption>
      <thead><tr><th>To</th><th>Message</th><th>By the rule</th></tr></thead>
      <tbody>
        {#each atOnce.listed as message, i (i)}
          <tr
            ><td>{message.to.join(', ')}</td><td dir="auto">{message.subject}</td><td
              >{message.rules.join(', ')}</td
            ></tr
          >
        {/each}
      </tbody>
    </table>
    {#if atOnce.messages > atOnce.listed.length}<p class="quiet">
        and {(atOnce.messages - atOnce.listed.length).toLocaleString('en')} more
      </p>{/if}
  </details>
{/if}
{#each atOnce.stopped as { rule, messages }, i (i)}
  <p class="brick-text">
    “{rule}” would send {many(messages, 'message', 'messages')} at once, far more than was foreseen for the day:
    it stops before it sends, and asks whoever keeps it.
  </p>
{/each}
{#if atOnce.acts > 0}
  <details open={atOnce.acts <= 4}>
    <summary>Rules do {many(atOnce.acts, 'thing', 'things')} because of it</summary>
    <ul>
      {#each atOnce.actsListed as act, i (i)}<li dir="auto">{act}</li>{/each}
    </ul>
    {#if atOnce.acts > atOnce.actsListed.length}<p class="quiet">
        and {(atOnce.acts - atOnce.actsListed.length).toLocaleString('en')} more
      </p>{/if}
  </details>
{/if}
{#each atOnce.questions as question, i (i)}
  <p>“{question}” is asked no more.</p>
{/each}

<style>
  summary {
    cursor: pointer;
    font-weight: 600;
    padding: 4px 0;
    width: fit-content;
  }
  details {
    margin-bottom: 6px;
  }
  ul {
    font-size: 13px;
    padding-left: 18px;
    list-style: disc;
  }
</style>
