<script lang="ts">
  import { enhance } from '$app/forms';
  import X from '@lucide/svelte/icons/x';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';

  /** Ways of looking at the list that were kept, and a way to keep this one. */
  interface Props {
    lists: readonly {
      id: number;
      name: string;
      query: string;
      shared: boolean;
      own: boolean;
      counted: boolean;
    }[];
    /** The parameters of the list as it is looked at now. */
    query: string;
    /** Whether they look at the Bell tower. */
    tower: boolean;
    ondone: (done: Done) => void;
  }

  let { lists, query, tower, ondone }: Props = $props();
  let opened = $state(false);
  const plain = $derived(query.replace(/^\?/, ''));
</script>

<div class="lists no-print">
  {#each lists as list (list.id)}
    <span class="one" class:here={list.query === plain}
      ><a href="/tasks{list.query ? `?${list.query}` : ''}">{list.name}</a>{#if list.own}<form
          method="POST"
          action="/tasks?/drop"
          use:enhance={submitDone(ondone)}
        >
          <input type="hidden" name="id" value={list.id} />
          <button class="x" aria-label="Remove the list {list.name}"><X size={12} /></button>
        </form>{/if}</span
    >
  {/each}
  <details bind:open={opened}>
    <summary class="quiet">Save this list</summary>
    <form
      class="sheet"
      method="POST"
      action="/tasks?/keep"
      use:enhance={submitDone((done) => {
        opened = false;
        ondone(done);
      })}
    >
      <input type="hidden" name="query" value={plain} />
      <label class="field"
        ><span class="label">Name of the list</span><input
          class="value"
          name="name"
          required
          maxlength="200"
        /></label
      >
      {#if tower}<label class="check"><input type="checkbox" name="shared" /> Share with everybody</label>
        <label class="check"><input type="checkbox" name="counted" /> Show its count on the Bell tower</label
        >{/if}
      <button class="button main">Save list</button>
    </form>
  </details>
</div>

<style>
  .lists {
    display: flex;
    flex-wrap: wrap;
    gap: 4px 12px;
    align-items: baseline;
    font-size: 13px;
  }
  .one {
    display: inline-flex;
    align-items: center;
    gap: 2px;
  }
  .here a {
    font-weight: 650;
    text-decoration-color: var(--brass);
  }
  .x {
    color: var(--ink-3);
    cursor: pointer;
    padding: 2px;
    display: grid;
  }
  details {
    position: relative;
  }
  summary {
    cursor: pointer;
    list-style: none;
    text-decoration: underline;
    text-decoration-color: var(--line);
    text-underline-offset: 3px;
  }
  details form {
    position: absolute;
    z-index: 20;
    top: 24px;
    left: 0;
    min-width: 220px;
    display: grid;
    gap: 8px;
    padding: 12px 14px;
    box-shadow: 0 8px 24px rgb(0 0 0 / 12%);
  }
  .check {
    display: flex;
    gap: 8px;
  }
</style>
