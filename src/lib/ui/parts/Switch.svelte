<script lang="ts">
  import { Switch } from '@skeletonlabs/skeleton-svelte';

  /** Something that is on or off, and is so at once. What is only taken with a form that is sent is a check box. */
  interface Props {
    label: string;
    checked: boolean;
    onchange: (checked: boolean) => void;
  }

  let { label, checked, onchange }: Props = $props();
</script>

<Switch {checked} onCheckedChange={(details) => onchange(details.checked)}>
  {#snippet element(attributes)}
    <label {...attributes} class="switch">
      <Switch.Control class="track"><Switch.Thumb class="thumb" /></Switch.Control>
      <Switch.Label>{label}</Switch.Label>
      <Switch.HiddenInput role="switch" />
    </label>
  {/snippet}
</Switch>

<style>
  .switch {
    display: inline-flex;
    align-items: center;
    gap: 8px;
    min-height: 28px;
    position: relative;
    cursor: pointer;
    font-size: 13px;
  }
  /* Off: a ring at the left on a hollow track; on: a full disc at the right. The shape says it, not only the colour. */
  .switch :global(.track) {
    width: 32px;
    height: 18px;
    padding: 2px;
    border-radius: 9px;
    border: 1.5px solid var(--ink-3);
  }
  .switch :global(.track[data-state='checked']) {
    border-color: var(--sea);
    background: var(--sea);
  }
  .switch :global(.thumb) {
    display: block;
    width: 11px;
    height: 11px;
    border-radius: 50%;
    border: 1.5px solid var(--ink-3);
    transition: translate 0.12s;
  }
  .switch :global(.thumb[data-state='checked']) {
    translate: 14px;
    border-color: var(--sheet);
    background: var(--sheet);
  }
  .switch:focus-within :global(.track) {
    outline: 2px solid var(--brass);
    outline-offset: 2px;
  }
</style>
