<script lang="ts" generics="T extends string | number">
  import Plus from '@lucide/svelte/icons/plus';
  import { tick } from 'svelte';
  import OpenList from './OpenList.svelte';
  import type { Option } from './option.ts';

  /** Something more can be added: pressed, what it can be is listed, the commonest first. */
  interface Props {
    /** What is on the button: “Add a ring time”. */
    caption: string;
    /** Its whole name for those who do not see where it is: “Add to this step”; where it is a thing, “a recipient”, it is “Add a recipient”. */
    label?: string;
    options: readonly Option<T>[];
    onadd: (value: T) => void;
  }

  let { caption, label = caption, options, onadd }: Props = $props();
  const name = $derived(/^\p{Lu}/u.test(label) ? label : `Add ${label}`);
  /** What is read aloud begins with what is seen, so that it can be said to press it. */
  const spoken = $derived(name.startsWith(caption.replace('…', '')) ? name : `${caption}: ${name}`);
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
    aria-label={spoken}
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
