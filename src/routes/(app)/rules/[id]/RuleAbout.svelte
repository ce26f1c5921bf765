<script lang="ts">
  import type { EditedRule } from './edited-rule.svelte.ts';

  /** What a rule is for, and in which group it stands. */
  let { edited, groups }: { edited: EditedRule; groups: readonly string[] } = $props();
</script>

<details class="about">
  <summary class="quiet"
    >{edited.input.description || 'Add a description'}{edited.input.group
      ? ` · in ${edited.input.group}`
      : ''}</summary
  >
  <label>Description <input class="value" maxlength="2000" bind:value={edited.input.description} /></label>
  <label
    >group <input class="value" maxlength="60" list="rule-groups" bind:value={edited.input.group} /></label
  >
  <datalist id="rule-groups"
    >{#each groups as group (group)}<option value={group}></option>{/each}</datalist
  >
</details>

<style>
  .about {
    font-size: 13px;
  }
  .about summary {
    cursor: pointer;
    width: fit-content;
    padding-top: 2px;
  }
  .about label {
    display: grid;
    grid-template-columns: 90px minmax(0, 560px);
    align-items: center;
    margin-top: 5px;
    color: var(--ink-3);
    font-size: 12.5px;
  }
</style>
