<script lang="ts" generics="T extends string | number">
  /** Several values of a few, each a small box that is in or out. */
  interface Props {
    legend: string;
    options: readonly { value: T; label: string }[];
    chosen: readonly T[];
    onchange: (chosen: T[]) => void;
  }

  let { legend, options, chosen, onchange }: Props = $props();

  const toggle = (value: T) =>
    onchange(
      options
        .map((option) => option.value)
        .filter((one) => (one === value ? !chosen.includes(one) : chosen.includes(one)))
    );
</script>

<fieldset>
  <legend class="sr">{legend}</legend>
  {#each options as { value, label } (value)}
    <label class:in={chosen.includes(value)}>
      <input type="checkbox" checked={chosen.includes(value)} onchange={() => toggle(value)} />
      {label}
    </label>
  {/each}
</fieldset>

<style>
  fieldset {
    display: flex;
    flex-wrap: wrap;
    gap: 5px;
  }
  label {
    display: inline-flex;
    align-items: center;
    gap: 6px;
    border: 1px solid var(--line-soft);
    border-radius: 6px;
    padding: 3px 8px;
    color: var(--ink-2);
    cursor: pointer;
  }
  label.in {
    border-color: var(--line);
    background: var(--sheet);
    color: var(--ink);
    font-weight: 500;
  }
  input {
    accent-color: var(--brass-deep);
  }
</style>
