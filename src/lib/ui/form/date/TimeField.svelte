<script lang="ts">
  import type { HTMLInputAttributes } from 'svelte/elements';
  import { CodedError } from '$lib/core/errors.ts';
  import { parseTimeOfDay, typedTime } from '$lib/core/time/time-of-day.ts';
  import BelowField from './BelowField.svelte';

  /** A time of day on the 24-hour clock, typed as people type it and read back: 9:00, 0900, 9, 3pm, noon. */
  interface Props extends Omit<HTMLInputAttributes, 'value' | 'onchange'> {
    value: string | null;
    label?: string;
    /** `HH:MM`; what was typed where it is no time, to be refused with its sentence; null where nothing stands. */
    onchange?: (time: string | null) => void;
  }

  let { value, label, onchange, ...rest }: Props = $props();

  const id = $props.id();
  let input = $state<HTMLInputElement>();
  let typed = $state<string | null>(null);
  let inside = $state(false);
  let held = $derived(value ?? '');
  const read = $derived(typedTime(typed ?? held));
  const fault = $derived(read === null ? '' : faultOf(read));

  function faultOf(time: string): string {
    try {
      parseTimeOfDay(time);
      return '';
    } catch (error) {
      if (error instanceof CodedError) return error.message;
      throw error;
    }
  }

  $effect(() => input?.setCustomValidity(fault));

  function take() {
    if (typed === null) return;
    held = read ?? '';
    typed = null;
    onchange?.(read);
  }
</script>

<span class="time-field">
  <input
    bind:this={input}
    type="text"
    inputmode="text"
    autocomplete="off"
    placeholder="HH:MM"
    maxlength="12"
    aria-label={label}
    value={typed ?? held}
    onfocus={() => (inside = true)}
    onblur={() => (inside = false)}
    oninput={(event) => (typed = event.currentTarget.value)}
    onchange={take}
    {...rest}
    aria-describedby={[rest['aria-describedby'], `${id}-read`].filter(Boolean).join(' ')}
    aria-invalid={fault !== '' && typed === null ? true : rest['aria-invalid']}
  />
  <span class="sr" id="{id}-read" role="status">{inside && typed !== null && !fault ? read : fault}</span>
  {#if inside && typed !== null && input}
    <BelowField field={input}>
      {#if fault}<p class:fault={typed.length > 2}>{fault}</p>
      {:else if read !== null}<p>{read}</p>{/if}
    </BelowField>
  {/if}
</span>
{#if fault !== '' && !inside}<span class="fault">{fault}</span>{/if}

<style>
  .time-field {
    display: inline-flex;
    max-width: 100%;
  }
  :global(.field) > .time-field {
    display: flex;
  }
  input {
    flex: 1;
    min-width: 76px;
  }
</style>
