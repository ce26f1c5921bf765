<script lang="ts">
  import Dialog from './Dialog.svelte';
  import { asked } from './ask.svelte.ts';

  /** Shows the question that is asked now. */
  let no = $state<HTMLButtonElement>();
</script>

{#if asked.now}
  {@const question = asked.now}
  <Dialog label={question.title} open asks first={() => no ?? null} onclose={() => question.answer(false)}>
    <p>{question.title}</p>
    <p class="answers">
      <button class="button main" onclick={() => question.answer(true)}>{question.yes}</button>
      <button class="button" bind:this={no} onclick={() => question.answer(false)}>{question.no}</button>
    </p>
  </Dialog>
{/if}

<style>
  .answers {
    display: flex;
    gap: 8px;
    margin-top: 14px;
  }
</style>
