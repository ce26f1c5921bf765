<script lang="ts">
  import CalendarDays from '@lucide/svelte/icons/calendar-days';
  import { getContext, tick } from 'svelte';
  import type { HTMLInputAttributes } from 'svelte/elements';
  import { readDateField, type FieldReading } from '$lib/core/typed/field.ts';
  import { dayOrNull, formatDay, parseDay, type Day } from '$lib/core/time/day.ts';
  import { longDay, shortDayAndYear } from '$lib/core/time/format.ts';
  import type { DaysOf } from '$lib/view/days.ts';
  import BelowField from './BelowField.svelte';
  import { NO_DAYS, type DaysSource } from './days-source.ts';

  /**
   * A date, typed as people type it and read back in full, or picked from a calendar with its closed days shaded. What says no date
   * stays as it was typed, with why.
   */
  interface Props extends Omit<HTMLInputAttributes, 'value' | 'onchange' | 'min' | 'type'> {
    /** `YYYY-MM-DD`; empty or null is none. */
    value?: string | null;
    /** Of the form field; its value is `YYYY-MM-DD`. */
    name?: string;
    label?: string;
    /** The first date that can be chosen, `YYYY-MM-DD`. */
    min?: string;
    /** Whose closed days count and are shaded. */
    of?: DaysOf;
    onchange?: (date: string | null) => void;
    /** Whether each date is told as soon as it is understood, and not when the field is left: where something hangs on it at once. */
    live?: boolean;
    /** Whether the keyboard is in it as soon as it is there. */
    atOnce?: boolean;
    /** Hears that it was left as it was. */
    onleave?: () => void;
    /** Hears what was typed where it is no date: a draft that keeps it is refused with the reason. */
    onfault?: (typed: string) => void;
  }

  // prettier-ignore
  let { value = '', name, label, min, of = {}, required, live = false, atOnce = false, onchange, onleave, onfault, ...rest }: Props = $props();

  const source = getContext<DaysSource>('days');
  const id = $props.id();
  let box = $state<HTMLElement>()!;
  let input = $state<HTMLInputElement>()!;
  /** What holds now: a date, none, or words that are no date. */
  let held = $derived(value ?? '');
  /** What stands in the field while it is written; null when it shows what holds. */
  let typed = $state<string | null>(null);
  let inside = $state(false);
  let picking = $state(false);
  let at = $state(0);
  let known = $state.raw(NO_DAYS);
  let mounted = $state(false);
  $effect(() => {
    mounted = true;
    if (atOnce) {
      input.focus();
      input.select();
    }
    const form = input.form;
    // A form that is emptied shows what it began with.
    const reset = () => {
      typed = null;
      held = value ?? '';
    };
    form?.addEventListener('reset', reset);
    return () => form?.removeEventListener('reset', reset);
  });

  const heldDay = $derived(dayOrNull(held));
  const shown = $derived(typed ?? (heldDay === null ? held : shortDayAndYear(heldDay)));
  const field = $derived({ ...known, today: parseDay(source.today()) });
  const reading = $derived(read(typed ?? held));
  const taken = $derived(
    reading.kind === 'day' ? formatDay(reading.day) : reading.kind === 'empty' ? '' : (typed ?? held)
  );
  const fault = $derived(faultOf(reading));

  function read(text: string): FieldReading {
    const found = readDateField(text, field);
    if (found.kind === 'day' && min !== undefined && formatDay(found.day) < min)
      return { kind: 'fault', why: `Choose ${longDay(parseDay(min))} or a later day.` };
    return found;
  }

  function faultOf(of: FieldReading): string {
    if (of.kind === 'fault') return of.why;
    return of.kind === 'several' ? `“${typed ?? held}” can mean several days. Choose one.` : '';
  }

  $effect(() => input.setCustomValidity(fault));

  async function enter() {
    inside = true;
    known = await source.get(of);
    // Words that count working days may have been typed before it was known which days those are.
    if (typed === null) return;
    if (live) offer();
    else if (!inside) take();
  }

  function leave(event: FocusEvent) {
    if (event.relatedTarget instanceof Node && box.contains(event.relatedTarget)) return;
    inside = false;
    picking = false;
    if (fault === '') onleave?.();
  }

  /** Tells what is understood so far; what was typed stays as it is. */
  function offer() {
    if ((reading.kind !== 'day' && reading.kind !== 'empty') || taken === held) return;
    held = taken;
    onchange?.(taken || null);
  }

  /** Takes what was typed, as it is understood. */
  function take() {
    if (typed === null) return;
    if (reading.kind === 'day' || reading.kind === 'empty') hold(taken);
    else {
      held = typed;
      onfault?.(typed);
    }
  }

  function hold(date: string) {
    typed = null;
    if (date === held) return;
    held = date;
    onchange?.(date || null);
  }

  async function choose(day: Day) {
    hold(formatDay(day));
    picking = false;
    await tick();
    input.focus();
  }

  function onkeydown(event: KeyboardEvent) {
    if (event.key === 'Escape' && (picking || typed !== null)) {
      event.preventDefault();
      event.stopPropagation();
      typed = null;
      picking = false;
      input.focus();
    } else if (event.target !== input) return;
    else if (reading.kind === 'several' && (event.key === 'ArrowDown' || event.key === 'ArrowUp')) {
      event.preventDefault();
      const n = reading.days.length;
      at = (at + (event.key === 'ArrowDown' ? 1 : n - 1)) % n;
    } else if (reading.kind === 'several' && event.key === 'Enter') {
      event.preventDefault();
      void choose(reading.days[at]!.day);
    } else if (event.key === 'ArrowDown') {
      event.preventDefault();
      take();
      picking = true;
    }
  }
</script>

<!-- It hears what its parts do not stop. -->
<!-- svelte-ignore a11y_no_static_element_interactions -->
<span class="date" bind:this={box} onfocusin={enter} onfocusout={leave} {onkeydown}>
  <input
    bind:this={input}
    type="text"
    autocomplete="off"
    placeholder="day"
    maxlength="60"
    aria-label={label}
    {required}
    name={mounted ? undefined : name}
    value={shown}
    {...rest}
    class={['value', rest.class]}
    aria-describedby={[rest['aria-describedby'], `${id}-read`].filter(Boolean).join(' ')}
    aria-invalid={fault !== '' && typed === null ? true : rest['aria-invalid']}
    oninput={(event) => {
      typed = event.currentTarget.value;
      at = 0;
      picking = false;
      if (live) offer();
    }}
    onchange={take}
  /><button
    type="button"
    class="open"
    aria-label="Open the calendar"
    aria-expanded={picking}
    disabled={rest.disabled}
    onclick={() => {
      take();
      picking = !picking;
    }}><CalendarDays size={15} /></button
  >
  {#if mounted && name !== undefined}<input
      type="hidden"
      {name}
      value={taken}
      disabled={rest.disabled}
    />{/if}
  <span class="sr" id="{id}-read" role="status"
    >{#if inside && reading.kind === 'day'}{reading.words}{:else}{fault}{/if}</span
  >
  {#if inside}
    <BelowField field={box} pressed={picking || reading.kind === 'several'}>
      {#if reading.kind === 'day'}<p>{reading.words}</p>
      {:else if reading.kind === 'several'}
        <p>Which day?</p>
        <ul>
          {#each reading.days as { day, words }, i (day)}
            <li>
              <button type="button" class:at={i === at} onclick={() => choose(day)}>{words}</button>
            </li>
          {/each}
        </ul>
      {:else if reading.kind === 'fault'}<p class:fault={typed === null || typed.length > 3}>{fault}</p>
      {:else if reading.kind === 'waiting'}<p class="quiet">Counting the working days…</p>
      {:else if !picking}<p class="quiet">5 mar · fri · in 5 working days</p>{/if}
      {#if picking}
        {#await import('./DateCalendar.svelte') then { default: DateCalendar }}
          <DateCalendar
            value={reading.kind === 'day' ? taken : null}
            {field}
            whose={known.of}
            {min}
            onpick={choose}
          />
        {/await}
      {/if}
    </BelowField>
  {/if}
</span>
{#if fault !== '' && !inside}<span class="fault">{fault}</span>{/if}

<style>
  .date {
    position: relative;
    display: inline-flex;
    width: 158px;
    max-width: 100%;
  }
  :global(.field) > .date {
    width: 100%;
  }
  .date > input[type='text'] {
    flex: 1;
    min-width: 0;
    padding-right: 28px;
  }
  .open {
    position: absolute;
    right: 2px;
    top: 2px;
    bottom: 2px;
    width: 26px;
    display: grid;
    place-items: center;
    border-radius: 5px;
    color: var(--ink-3);
    cursor: pointer;
  }
  .open:hover {
    color: var(--ink);
  }
  ul {
    display: grid;
    margin-top: 3px;
  }
  li button {
    width: 100%;
    text-align: left;
    padding: 4px 7px;
    border-radius: 5px;
    cursor: pointer;
  }
  li button:hover,
  .at {
    background: var(--brass-wash);
  }
</style>
