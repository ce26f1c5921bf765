<script lang="ts">
  import Dialog from '$lib/ui/dialog/Dialog.svelte';

  /** One line kept from anywhere: no duty, no reminder; no rule, digest or sweep sees it. */
  interface Props {
    keep: (text: string) => Promise<boolean>;
    onclose: () => void;
  }

  let { keep, onclose }: Props = $props();
  let text = $state('');
  let input = $state<HTMLInputElement>();
</script>

<Dialog label="Keep a line" open {onclose} first={() => input ?? null}>
  <form
    onsubmit={async (event) => {
      event.preventDefault();
      if (await keep(text)) onclose();
    }}
  >
    <h2>Keep a line</h2>
    <input class="value" aria-label="Line" maxlength="500" bind:this={input} bind:value={text} />
    <p class="quiet">
      It stands on your Desk until you make it a task or throw it away. Nobody is reminded of it.
    </p>
    <p class="answers">
      <button class="button main" disabled={text.trim() === ''}>Keep</button>
      <button type="button" class="button" onclick={onclose}>Cancel</button>
    </p>
  </form>
</Dialog>

<style>
  form {
    display: grid;
    gap: 10px;
  }
  .answers {
    display: flex;
    gap: 8px;
  }
</style>
