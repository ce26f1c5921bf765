<script lang="ts">
  import { TagsInput } from '@skeletonlabs/skeleton-svelte';
  import X from '@lucide/svelte/icons/x';

  /** Words that are put to something: typed one after another, taken away by a press or by Backspace. A comma or Enter ends one. */
  interface Props {
    label: string;
    tags: readonly string[];
    /** What is in use already, offered while typing. */
    known: readonly string[];
    onchange: (tags: string[]) => void;
  }

  let { label, tags, known, onchange }: Props = $props();
  const id = $props.id();
</script>

<TagsInput
  value={[...tags]}
  onValueChange={(details) => onchange(details.value)}
  addOnPaste
  blurBehavior="add"
>
  {#snippet element(attributes)}
    <div {...attributes} class="tags">
      <TagsInput.Label class="label">{label}</TagsInput.Label>
      <TagsInput.Control class="value control">
        {#each tags as tag, index (tag)}
          <TagsInput.Item value={tag} {index} class="item">
            <TagsInput.ItemPreview class="preview">
              <TagsInput.ItemText>{tag}</TagsInput.ItemText>
              <TagsInput.ItemDeleteTrigger aria-label="Remove {tag}"
                ><X size={12} /></TagsInput.ItemDeleteTrigger
              >
            </TagsInput.ItemPreview>
            <TagsInput.ItemInput aria-label="Change {tag}" />
          </TagsInput.Item>
        {/each}
        <TagsInput.Input list="{id}-known" class="input" />
      </TagsInput.Control>
      <datalist id="{id}-known"
        >{#each known as tag (tag)}<option value={tag}></option>{/each}</datalist
      >
    </div>
  {/snippet}
</TagsInput>

<style>
  .tags {
    display: grid;
    gap: 3px;
  }
  .tags :global(.label) {
    font-size: 13px;
    color: var(--ink-2);
  }
  .tags :global(.control) {
    display: flex;
    flex-wrap: wrap;
    gap: 3px 6px;
    height: auto;
    min-height: 30px;
    align-items: center;
  }
  .tags :global(.preview) {
    display: inline-flex;
    align-items: center;
    gap: 3px;
    padding: 0 3px 0 6px;
    border-radius: 4px;
    background: var(--lit);
    box-shadow: inset 0 0 0 1px var(--lit-edge);
  }
  .tags :global(.preview[data-highlighted]) {
    box-shadow: inset 0 0 0 2px var(--brass);
  }
  .tags :global(.preview button) {
    display: grid;
    place-content: center;
    min-width: 20px;
    min-height: 24px;
    cursor: pointer;
  }
  .tags :global(.input) {
    flex: 1;
    min-width: 60px;
    border: 0;
    background: none;
    outline: none;
  }
  .tags:focus-within :global(.control) {
    outline: 2px solid var(--brass);
    outline-offset: 1px;
  }
</style>
