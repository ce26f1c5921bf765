<script lang="ts">
  import type { Snippet } from 'svelte';

  /** The words of a row that open what stands under it. */
  interface Props {
    open: boolean;
    /** The id of what it opens. */
    controls: string;
    onpress: () => void;
    children: Snippet;
  }

  let { open, controls, onpress, children }: Props = $props();
</script>

<button type="button" aria-expanded={open} aria-controls={open ? controls : undefined} onclick={onpress}
  ><span class="turn" class:open></span>{@render children()}</button
>

<style>
  button {
    text-align: left;
    font-weight: 500;
    cursor: pointer;
    text-decoration: underline;
    text-decoration-color: var(--line);
    text-underline-offset: 3px;
  }
  button:hover {
    text-decoration-color: currentColor;
  }
  button :global(.quiet) {
    text-decoration: none;
    display: inline-block;
    margin-left: 2px;
  }
  .turn {
    display: inline-block;
    width: 6px;
    height: 6px;
    margin: 0 7px 2px 1px;
    border: solid var(--ink-3);
    border-width: 1.5px 1.5px 0 0;
    transform: rotate(45deg);
    transition: transform 0.12s;
  }
  .open {
    transform: translateY(-2px) rotate(135deg);
  }
</style>
