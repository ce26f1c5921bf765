<script lang="ts">
  import type { RuleFault } from '$lib/core/rule/rule-fault.ts';
  import RuleState from '$lib/ui/rule/RuleState.svelte';
  import type { EditedRule } from './edited-rule.svelte.ts';
  import type { PageData } from './$types';

  /** What a rule is called, how it stands, and what can be done with it. */
  interface Props {
    data: PageData;
    edited: EditedRule;
    faults: readonly RuleFault[];
    /** Turning it off is asked for: what that would end is shown first. */
    ending: boolean;
  }

  let { data, edited, faults, ending = $bindable() }: Props = $props();
</script>

<h1 class="sr">{edited.input.name || 'A new rule'}</h1>
<div class="titles">
  <label class="sr" for="rule-name">Name of the rule</label>
  <input
    id="rule-name"
    class="name"
    placeholder="Name this rule"
    maxlength="200"
    bind:value={edited.input.name}
    aria-invalid={faults.some(({ part }) => part === 'name')}
  />
  <RuleState state={data.state} />
  <span class="quiet"
    >version {data.version}{data.drafted ? ', with a draft' : ''}{data.keeper
      ? ` · keeper: ${data.keeper}`
      : ''}{edited.unsaved ? ' · not saved' : ''}</span
  >
  <span class="acts">
    {#if data.state === 'on'}<button
        type="button"
        class="button"
        aria-expanded={ending}
        onclick={() => (ending = !ending)}>Turn off…</button
      >{/if}
    {#if !data.wasLive}<button class="button" formaction="?/discard">Discard</button>{/if}
    <button class="button" formaction="?/save" disabled={!edited.unsaved}
      >Save{data.state === 'on' ? ' as a draft' : ''}</button
    >
    <button
      type="button"
      class="button main"
      disabled={data.state === 'on' && !data.drafted && !edited.unsaved}
      aria-expanded={edited.check !== null}
      onclick={() => edited.askCheck()}>{data.state === 'on' ? 'Make it live…' : 'Turn on…'}</button
    >
  </span>
</div>

<style>
  .titles {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 6px 12px;
  }
  .name {
    font:
      650 23px 'Bricolage Grotesque Variable',
      sans-serif;
    letter-spacing: -0.01em;
    background: none;
    border-bottom: 1px dashed var(--line);
    /* As wide as what is written in it, as far as there is room. */
    min-width: min(220px, 100%);
    max-width: 100%;
    field-sizing: content;
    padding: 1px 0;
  }
  @supports not (field-sizing: content) {
    .name {
      width: min(420px, 100%);
    }
  }
  .acts {
    margin-left: auto;
    display: flex;
    gap: 8px;
  }
</style>
