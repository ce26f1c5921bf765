<script lang="ts">
  import { many } from '$lib/core/many.ts';
  import type { AtOnceView } from '$lib/view/effects.ts';

  import Counted from './Counted.svelte';

  /** What leaves and is done in the minute of an act, by any rule: counted, and listed below. */
  let { atOnce }: { atOnce: AtOnceView } = $props();
</script>

{#if atOnce.messages === 0}
  <p>No message is sent at once.</p>
{:else}
  <Counted
    words="{many(atOnce.messages, 'message is', 'messages are')} at once, to {many(
      atOnce.people,
      'person',
      'people'
    )}"
    count={atOnce.messages}
    listed={atOnce.listed.length}
  >
    <table>
      <caption class="sr">Messages sent at once</caption>
      <thead><tr><th>To</th><th>Message</th><th>Rule</th></tr></thead>
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
  </Counted>
{/if}
{#each atOnce.stopped as { rule, messages }, i (i)}
  <p class="brick-text">
    “{rule}” would send {many(messages, 'message')} at once, far more than the day’s forecast. It stops before sending
    and asks its keeper.
  </p>
{/each}
{#if atOnce.acts > 0}
  <Counted
    words="{many(atOnce.acts, 'change')} by rules because of it"
    count={atOnce.acts}
    listed={atOnce.actsListed.length}
    openUpTo={4}
  >
    <ul>
      {#each atOnce.actsListed as act, i (i)}<li dir="auto">{act}</li>{/each}
    </ul>
  </Counted>
{/if}
{#each atOnce.questions as question, i (i)}
  <p>“{question}” is no longer asked.</p>
{/each}

<style>
  ul {
    font-size: 13px;
    padding-left: 18px;
    list-style: disc;
  }
</style>
