<script lang="ts" generics="T extends string | number">
  import { Combobox, Portal, useListCollection } from '@skeletonlabs/skeleton-svelte';
  import Check from '@lucide/svelte/icons/check';
  import { searchOptions, type Option } from './option.ts';

  /** A list that is open: typing narrows it, arrows and Enter choose, Escape leaves it as it was. */
  interface Props {
    label: string;
    options: readonly Option<T>[];
    chosen: readonly T[];
    /** Whether several can be chosen; then it stays open. */
    many?: boolean;
    onchosen: (chosen: T[]) => void;
    /** @param back whether the keyboard goes back to what opened it */
    onclose: (back: boolean) => void;
  }

  let { label, options, chosen, many = false, onchosen, onclose }: Props = $props();

  let typed = $state('');
  const found = $derived(searchOptions(options, typed));
  const collection = $derived(
    useListCollection({
      items: found,
      itemToValue: ({ value }) => String(value),
      itemToString: (option) => option.label,
      isItemDisabled: ({ unfit }) => Boolean(unfit)
    })
  );
  const headed = (i: number) => found[i]!.group !== undefined && found[i]!.group !== found[i - 1]?.group;

  // What is computed meanwhile moves the page: where one types, and the list with it, stays in sight.
  $effect(() => {
    const observer = new ResizeObserver(() => {
      const typing = document.activeElement;
      if (typing?.classList.contains('picking')) typing.scrollIntoView({ block: 'nearest' });
    });
    observer.observe(document.body);
    return () => observer.disconnect();
  });

  function take(values: readonly string[]) {
    // In the order of the options, as they are read back.
    onchosen(options.map(({ value }) => value).filter((value) => values.includes(String(value))));
  }
</script>

<Combobox
  {collection}
  multiple={many}
  value={chosen.map(String)}
  defaultOpen
  autoFocus
  openOnClick
  closeOnSelect={!many}
  inputBehavior="autohighlight"
  selectionBehavior="clear"
  positioning={{ placement: 'bottom-start', sameWidth: false, strategy: 'fixed' }}
  onInputValueChange={({ inputValue }) => (typed = inputValue)}
  onSelect={({ value, itemValue }) => {
    if (many) take(value);
    else take([itemValue]);
  }}
  onOpenChange={({ open, reason }) => {
    if (!open) onclose(reason !== 'interact-outside');
  }}
>
  <Combobox.Control>
    <Combobox.Input class="value picking" aria-label={label} placeholder="type to find" />
  </Combobox.Control>
  <Portal>
    <Combobox.Positioner class="z-40">
      <Combobox.Content class="pick-list" aria-label={label}>
        {#each found as option, i (option.value)}
          {#if headed(i)}<li class="heading" role="presentation">{option.group}</li>{/if}
          <Combobox.Item item={option} class="pick-item">
            <span class="taken" aria-hidden="true"
              >{#if chosen.includes(option.value)}<Check size={14} />{/if}</span
            >
            <span
              >{option.label}{#if option.unfit}<span class="quiet">{` · ${option.unfit}`}</span>{/if}</span
            >
          </Combobox.Item>
        {:else}
          <li class="none quiet" role="presentation">No match</li>
        {/each}
      </Combobox.Content>
    </Combobox.Positioner>
  </Portal>
</Combobox>

<style>
  :global(.picking) {
    width: 168px;
    border-color: var(--brass);
  }
  :global(.pick-list) {
    min-width: 180px;
    max-width: 360px;
    max-height: min(320px, 60vh);
    overflow-y: auto;
    background: var(--sheet);
    border: 1px solid var(--line);
    border-radius: 7px;
    padding: 4px 0;
    box-shadow: 0 8px 24px rgb(0 0 0 / 12%);
    font-size: 13px;
  }
  :global(.pick-item) {
    display: grid;
    grid-template-columns: 16px minmax(0, 1fr);
    gap: 6px;
    padding: 4px 12px 4px 8px;
    cursor: pointer;
  }
  :global(.pick-item[data-highlighted]) {
    background: var(--brass-wash);
  }
  :global(.pick-item[data-disabled]) {
    color: var(--ink-3);
    cursor: default;
  }
  .taken {
    color: var(--brass-deep);
    padding-top: 2px;
  }
  .heading {
    padding: 6px 12px 2px;
    font-size: 11.5px;
    font-weight: 600;
    color: var(--ink-3);
  }
  .none {
    padding: 4px 12px;
  }
</style>
