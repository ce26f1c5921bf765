<script lang="ts">
  import type { HTMLInputAttributes } from 'svelte/elements';
  import { typedTime } from '$lib/core/time/time-of-day.ts';

  /** A time of day on the 24-hour clock, typed as people type it: 9:00, 0900, 9. */
  interface Props extends Omit<HTMLInputAttributes, 'value' | 'onchange'> {
    value: string | null;
    label?: string;
    onchange?: (time: string | null) => void;
  }

  let { value, label, onchange, ...rest }: Props = $props();
</script>

<input
  type="text"
  inputmode="numeric"
  autocomplete="off"
  placeholder="HH:MM"
  maxlength="8"
  aria-label={label}
  value={value ?? ''}
  onchange={(event) => {
    const time = typedTime(event.currentTarget.value);
    event.currentTarget.value = time ?? '';
    onchange?.(time);
  }}
  {...rest}
/>

<style>
  input {
    min-width: 76px;
  }
</style>
