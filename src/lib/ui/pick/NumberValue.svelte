<script lang="ts">
  /** A whole number as a value: as wide as it is long, typed over in place. */
  interface Props {
    label: string;
    value: number | null;
    min?: number;
    max?: number;
    /** What stands there while there is none; without it a number must stand there. */
    blank?: string;
    onchange: (value: number | null) => void;
  }

  let { label, value, min = 0, max = 100_000, blank, onchange }: Props = $props();

  function read(input: HTMLInputElement) {
    const typed = input.value.trim();
    const amount = Math.trunc(Number(typed));
    if (typed === '' && blank !== undefined) onchange(null);
    else if (typed !== '' && Number.isFinite(amount)) onchange(Math.min(max, Math.max(min, amount)));
    // What is not a number leaves what stood there.
    else input.value = String(value ?? '');
  }
</script>

<input
  class="value number"
  type="number"
  step="1"
  {min}
  {max}
  placeholder={blank}
  aria-label={label}
  title={label}
  value={value ?? ''}
  onchange={(event) => read(event.currentTarget)}
/>

<style>
  .number {
    field-sizing: content;
    min-width: 36px;
    text-align: center;
    appearance: textfield;
  }
  .number::-webkit-inner-spin-button {
    appearance: none;
  }
</style>
