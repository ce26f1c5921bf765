<script lang="ts">
  import X from '@lucide/svelte/icons/x';

  /** Takes something out of the rule; small, and named for those who do not see where it stands. */
  let { label, onclick }: { label: string; onclick: () => void } = $props();
</script>

<button type="button" class="out" aria-label={label} title={label} {onclick}><X size={14} /></button>

<style>
  .out {
    display: inline-flex;
    align-items: center;
    justify-content: center;
    width: 24px;
    height: 30px;
    border-radius: 6px;
    color: var(--ink-3);
    cursor: pointer;
  }
  .out:hover {
    color: var(--brick);
  }
</style>
