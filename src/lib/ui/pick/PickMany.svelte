<script lang="ts" generics="T extends string | number">
  import { tick } from 'svelte';
  import OpenList from './OpenList.svelte';
  import { withChosen, type Option } from './option.ts';

  /** Several values of a list: they stand side by side, and pressed they are edited in place. */
  interface Props {
    label: string;
    options: readonly Option<T>[];
    chosen: readonly T[];
    /** What stands there while none is chosen. */
    blank?: string;
    /** What stands between two of them: "or", "and", or nothing. */
    between?: string;
    onchange: (chosen: T[]) => void;
  }

  let { label, options, chosen, blank = 'choose', between = 'or', onchange }: Props = $props();
  let open = $state(false);
  let button = $state<HTMLButtonElement>();
  const all = $derived(withChosen(options, chosen));
  const shown = $derived(all.filter(({ value }) => chosen.includes(value)));

  async function close(back: boolean) {
    open = false;
    await tick();
    if (back) button?.focus();
  }
</script>

<button
  bind:this={button}
  type="button"
  class="many"
  aria-haspopup="listbox"
  aria-expanded={open}
  title={label}
  onclick={() => (open = true)}
>
  <span class="sr">{label}:</span>
  {#each shown as option, i (option.value)}
    {#if i > 0 && between}<span class="quiet">{` ${between}`}</span>{/if}
    <span class="value">{option.label}</span>
  {:else}
    <span class="value blank">{blank}</span>
  {/each}
</button>
{#if open}<OpenList {label} options={all} {chosen} many onchosen={onchange} onclose={close} />{/if}

<style>
  .many {
    display: inline-flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 4px 6px;
    cursor: pointer;
    text-align: left;
  }
  .many .value {
    display: inline-flex;
    align-items: center;
  }
  .many:hover .value {
    border-color: var(--ink-3);
  }
  .blank {
    color: var(--ink-3);
    font-weight: 400;
  }
</style>
