<script lang="ts">
  import { WEEKDAYS, type WeekSpec } from '$lib/core/calendar/spec.ts';
  import { typedIntervals } from '$lib/view/calendars.ts';

  /** A working week, one line of intervals for each weekday; empty is closed. */
  interface Props {
    week: WeekSpec;
    /** Where the week stands: “from the beginning”, or the date it holds from. */
    title: string;
    readonly: boolean;
    onchange: (week: WeekSpec) => void;
    onremove?: () => void;
  }

  let { week, title, readonly, onchange, onremove }: Props = $props();
  const id = $props.id();
  let errors = $state<Record<string, string | null>>({});

  function typed(weekday: (typeof WEEKDAYS)[number], text: string) {
    const { intervals, error } = typedIntervals(text);
    errors[weekday] = error;
    if (!error) onchange({ ...week, [weekday]: intervals });
  }
</script>

<fieldset disabled={readonly}>
  <legend
    >{title}
    {#if onremove && !readonly}<button
        type="button"
        class="button plain"
        onclick={onremove}
        aria-label="Remove week {title}">Remove</button
      >{/if}</legend
  >
  {#each WEEKDAYS as weekday (weekday)}
    <div class="line">
      <label for="{id}-{weekday}">{weekday}</label>
      <span>
        <input
          class="value"
          id="{id}-{weekday}"
          placeholder="closed"
          value={(week[weekday] ?? []).join(', ')}
          aria-invalid={Boolean(errors[weekday])}
          aria-describedby={errors[weekday] ? `${id}-${weekday}-error` : undefined}
          onchange={(event) => typed(weekday, event.currentTarget.value)}
        />
        {#if errors[weekday]}<span class="fault" id="{id}-{weekday}-error">{errors[weekday]}</span>{/if}
      </span>
    </div>
  {/each}
</fieldset>

<style>
  legend {
    font-weight: 600;
    font-size: 13px;
    min-height: 30px;
  }
  .line {
    display: grid;
    grid-template-columns: 38px minmax(0, 1fr);
    align-items: baseline;
    gap: 6px;
    margin-bottom: 3px;
  }
  label {
    color: var(--ink-2);
    font-size: 12.5px;
  }
  input {
    width: 100%;
  }
</style>
