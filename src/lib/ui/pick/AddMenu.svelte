<script lang="ts" generics="T extends string | number">
  import Plus from '@lucide/svelte/icons/plus';
  import { tick } from 'svelte';
  import OpenList from './OpenList.svelte';
  import type { Option } from './option.ts';

  /** Something more can be added: pressed, what it can be is listed, the commonest first. */
  interface Props {
    /** What is added, as it is said before the list: “another time”. */
    caption: string;
    /** What those hear who do not see where it stands. */
    label?: string;
    options: readonly Option<T>[];
    onadd: (value: T) => void;
  }

  let { caption, label = caption, options, onadd }: Props = $props();
  let open = $state(false);
  let button = $state<HTMLButtonElement>();

  async function close(back: boolean) {
    open = false;
    await tick();
    if (back) button?.focus();
  }
</script>

{#if open}
  <OpenList
    {label}
    {options}
    chosen={[]}
    onchosen={([picked]) => picked !== undefined && onadd(picked)}
    onclose={close}
  />
{:else}
  <button
    bind:this={button}
    type="button"
    class="add"
    aria-haspopup="listbox"
    aria-label="Add {label}"
    onclick={() => (open = true)}><Plus size={13} />{caption}</button
  >
{/if}

<style>
  .add {
    display: inline-flex;
    align-items: center;
    gap: 4px;
    min-height: 30px;
    padding: 3px 5px;
    border-radius: 6px;
    color: var(--brass-ink);
    font-size: 13px;
    font-weight: 500;
    cursor: pointer;
  }
  .add:hover {
    text-decoration: underline;
    text-underline-offset: 3px;
  }
</style>
