<script lang="ts">
  /** The name of a thing as the heading of its page, typed over in place. */
  let { label, value = $bindable() }: { label: string; value: string } = $props();
</script>

<h1 class="sr">{value || label}</h1>
<input aria-label={label} maxlength="120" bind:value />

<style>
  input {
    font: var(--typo-heading--font-weight) 24px/1.2 var(--typo-heading--font-family);
    border: 0;
    border-bottom: 1px solid transparent;
    background: none;
    color: var(--ink);
    field-sizing: content;
    min-width: 180px;
    max-width: 480px;
    padding: 2px 0;
  }
  input:hover,
  input:focus-visible {
    border-bottom-color: var(--ink-3);
  }
</style>
