<script lang="ts" generics="T extends string">
  import { SegmentedControl } from '@skeletonlabs/skeleton-svelte';

  /** One of a few, all of them in sight; chosen by a press or by the arrows. */
  interface Props {
    /** What is chosen, for those who hear it. */
    label: string;
    options: readonly { value: T; label: string }[];
    value: T;
    onchange: (value: T) => void;
  }

  let { label, options, value, onchange }: Props = $props();
</script>

<SegmentedControl {value} onValueChange={(details) => details.value && onchange(details.value as T)}>
  {#snippet element(attributes)}
    <div {...attributes} class="segments" aria-label={label}>
      <SegmentedControl.Control class="control">
        {#each options as option (option.value)}
          <SegmentedControl.Item value={option.value} class="item">
            <SegmentedControl.ItemText>{option.label}</SegmentedControl.ItemText>
            <SegmentedControl.ItemHiddenInput />
          </SegmentedControl.Item>
        {/each}
      </SegmentedControl.Control>
    </div>
  {/snippet}
</SegmentedControl>

<style>
  .segments {
    display: inline-flex;
  }
  .segments :global(.control) {
    display: inline-flex;
    flex-wrap: wrap;
    gap: 2px 12px;
  }
  .segments :global(.item) {
    display: inline-flex;
    align-items: center;
    position: relative;
    min-height: 28px;
    font-size: 13px;
    color: var(--ink-2);
    cursor: pointer;
  }
  .segments :global(.item[data-state='checked']) {
    color: var(--ink);
    font-weight: 650;
    box-shadow: 0 2px 0 var(--brass);
  }
  .segments :global(.item:focus-within) {
    outline: 2px solid var(--brass);
    outline-offset: 2px;
    border-radius: 3px;
  }
  @media (forced-colors: active) {
    .segments :global(.item[data-state='checked']) {
      border-bottom: 2px solid Highlight;
    }
  }
</style>
