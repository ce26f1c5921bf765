<script lang="ts">
  /** A word that goes with a task to whoever has it then. */
  let { onsay }: { onsay: (word: string) => void } = $props();
  let word = $state('');
</script>

<label class="field">
  <span class="label">A word with it (may be left out)</span>
  <textarea class="value" rows="3" maxlength="2000" bind:value={word}></textarea>
</label>
<button class="button main" onclick={() => onsay(word)}>Give back</button>

<style>
  .field {
    flex-basis: 100%;
  }
</style>
