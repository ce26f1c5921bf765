<script lang="ts" generics="T extends string | number">
  import { tick } from 'svelte';
  import OpenList from './OpenList.svelte';
  import { withChosen, type Option } from './option.ts';

  /** A value that is one of several: it shows what is chosen, and pressed it is edited in place. */
  interface Props {
    /** What the value is of; said before it to those who hear it. */
    label: string;
    options: readonly Option<T>[];
    value: T | null;
    /** What stands there while nothing is chosen. */
    blank?: string;
    /** A value that is seldom changed stands back. */
    still?: boolean;
    onchange: (value: T) => void;
  }

  let { label, options, value, blank = 'choose', still = false, onchange }: Props = $props();
  let open = $state(false);
  let button = $state<HTMLButtonElement>();
  const all = $derived(withChosen(options, value === null ? [] : [value]));
  const shown = $derived(all.find((option) => option.value === value)?.label ?? blank);

  async function close(back: boolean) {
    open = false;
    await tick();
    if (back) button?.focus();
  }
</script>

{#if open}
  <OpenList
    {label}
    options={all}
    chosen={value === null ? [] : [value]}
    onchosen={([picked]) => {
      if (picked !== undefined && picked !== value) onchange(picked);
    }}
    onclose={close}
  />
{:else}
  <button
    bind:this={button}
    type="button"
    class="value pick"
    class:still
    class:blank={value === null}
    aria-haspopup="listbox"
    aria-label="{label}: {shown}"
    title={label}
    onclick={() => (open = true)}
    onkeydown={(event) => {
      if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
        event.preventDefault();
        open = true;
      }
    }}>{shown}</button
  >
{/if}

<style>
  .pick {
    cursor: pointer;
    text-align: left;
  }
  .pick:hover {
    border-color: var(--ink-3);
  }
  .still {
    background: none;
    font-weight: 450;
  }
  .blank {
    color: var(--ink-3);
    font-weight: 400;
  }
</style>
