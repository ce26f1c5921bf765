<script lang="ts" generics="T extends string">
  import { Tabs } from '@skeletonlabs/skeleton-svelte';
  import type { Snippet } from 'svelte';

  /** Several sides of one thing, of which one is looked at. */
  interface Props {
    label: string;
    sides: readonly { value: T; label: string }[];
    value: T;
    onchange: (value: T) => void;
    /** The side that is looked at. */
    children: Snippet;
  }

  let { label, sides, value, onchange, children }: Props = $props();
</script>

<Tabs {value} onValueChange={(details) => onchange(details.value as T)} activationMode="manual">
  {#snippet element(attributes)}
    <div {...attributes} class="sides">
      <Tabs.List class="list" aria-label={label}>
        {#each sides as side (side.value)}
          <!-- The buttons stand in forms that are sent. -->
          <Tabs.Trigger value={side.value} type="button" class="side">{side.label}</Tabs.Trigger>
        {/each}
      </Tabs.List>
      <Tabs.Content {value} class="content">{@render children()}</Tabs.Content>
    </div>
  {/snippet}
</Tabs>

<style>
  .sides {
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    gap: 8px;
  }
  .sides :global(.list) {
    display: flex;
    flex-wrap: wrap;
    gap: 2px 16px;
    border-bottom: 1px solid var(--line);
  }
  .sides :global(.side) {
    min-height: 32px;
    padding: 4px 0;
    color: var(--ink-2);
    font-size: 13px;
    font-weight: 500;
    cursor: pointer;
  }
  .sides :global(.side[aria-selected='true']) {
    color: var(--ink);
    font-weight: 650;
    box-shadow: 0 2px 0 var(--brass);
  }
  .sides :global(.content) {
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    gap: 8px;
    min-width: 0;
  }
  @media (forced-colors: active) {
    .sides :global(.side[aria-selected='true']) {
      border-bottom: 2px solid Highlight;
    }
  }
</style>
