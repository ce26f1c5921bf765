<script lang="ts">
  import ChevronLeft from '@lucide/svelte/icons/chevron-left';
  import ChevronRight from '@lucide/svelte/icons/chevron-right';
  import { DatePicker, parseDate } from '@skeletonlabs/skeleton-svelte';
  import { dayInWords, type FieldDays } from '$lib/core/typed/field.ts';
  import { FIRST_DAY, LAST_DAY, dayOrNull, formatDay, parseDay, type Day } from '$lib/core/time/day.ts';
  import { monthWords } from '$lib/core/time/format.ts';

  /** A month of days to pick from, closed ones shaded; loaded when it is first opened. */
  interface Props {
    value: string | null;
    field: FieldDays;
    /** Whose closed days are shaded: “the owner’s calendar”. */
    whose: string;
    min?: string;
    onpick: (day: Day) => void;
  }

  let { value, field, whose, min, onpick }: Props = $props();
  const today = $derived(formatDay(field.today));
  const isClosed = (date: string) => {
    const day = dayOrNull(date);
    return day !== null && (field.list?.has(day) ?? false) && !field.list!.isWorking(day);
  };

  // The keyboard is in the calendar as soon as it is there.
  function focusDay(grid: HTMLElement) {
    requestAnimationFrame(() => grid.querySelector<HTMLElement>('[tabindex="0"]')?.focus());
  }
</script>

<div use:focusDay>
  <DatePicker
    inline
    locale="en-GB"
    timeZone="UTC"
    startOfWeek={(field.weekStart + 1) % 7}
    fixedWeeks
    value={value ? [parseDate(value)] : []}
    defaultFocusedValue={parseDate(value ?? today)}
    min={parseDate(min ?? formatDay(FIRST_DAY))}
    max={parseDate(formatDay(LAST_DAY))}
    outsideDaySelectable
    onValueChange={({ value: [picked] }) => {
      if (picked) onpick(parseDay(picked.toString()));
    }}
    translations={{
      dayCell: ({ value: date }) => {
        const day = dayOrNull(date.toString());
        return day === null ? date.toString() : dayInWords(day, field);
      },
      nextTrigger: () => 'Next month',
      prevTrigger: () => 'Month before',
      viewTrigger: () => 'Choose month',
      presetTrigger: () => '',
      monthSelect: 'Month',
      yearSelect: 'Year',
      clearTrigger: 'Clear',
      trigger: () => 'Calendar',
      content: 'Calendar',
      placeholder: () => ({ day: 'dd', month: 'mm', year: 'yyyy' })
    }}
  >
    <DatePicker.Content class="date-month">
      <DatePicker.View view="day">
        <DatePicker.Context>
          {#snippet children(picker)}
            <DatePicker.ViewControl class="date-head">
              <DatePicker.PrevTrigger class="date-step"><ChevronLeft size={16} /></DatePicker.PrevTrigger>
              <b>{monthWords(parseDay(picker().visibleRange.start.toString()))}</b>
              <DatePicker.NextTrigger class="date-step"><ChevronRight size={16} /></DatePicker.NextTrigger>
            </DatePicker.ViewControl>
            <DatePicker.Table>
              <DatePicker.TableHead>
                <DatePicker.TableRow>
                  {#each picker().weekDays as weekday (weekday.long)}
                    <DatePicker.TableHeader aria-label={weekday.long}>{weekday.short}</DatePicker.TableHeader>
                  {/each}
                </DatePicker.TableRow>
              </DatePicker.TableHead>
              <DatePicker.TableBody>
                {#each picker().weeks as week, i (i)}
                  <DatePicker.TableRow>
                    {#each week as date (date.toString())}
                      <DatePicker.TableCell value={date}>
                        <DatePicker.TableCellTrigger
                          class={[
                            'date-day',
                            isClosed(date.toString()) && 'closed',
                            date.toString() === today && 'now'
                          ]
                            .filter(Boolean)
                            .join(' ')}>{date.day}</DatePicker.TableCellTrigger
                        >
                      </DatePicker.TableCell>
                    {/each}
                  </DatePicker.TableRow>
                {/each}
              </DatePicker.TableBody>
            </DatePicker.Table>
          {/snippet}
        </DatePicker.Context>
      </DatePicker.View>
    </DatePicker.Content>
  </DatePicker>
  {#if whose}<p class="quiet">Shaded: closed in {whose}.</p>{/if}
</div>

<style>
  :global(.date-head) {
    display: flex;
    align-items: center;
    justify-content: space-between;
    padding: 4px 0;
    font-family: var(--typo-heading--font-family);
  }
  :global(.date-step) {
    display: grid;
    place-items: center;
    width: 32px;
    height: 28px;
    border-radius: 6px;
    cursor: pointer;
  }
  :global(.date-step:hover) {
    background: var(--dim);
  }
  :global(.date-month th) {
    text-align: center;
    padding: 0 0 3px;
    border: 0;
  }
  :global(.date-month td) {
    padding: 1px;
    border: 0;
  }
  :global(.date-day) {
    display: grid;
    place-items: center;
    width: 34px;
    height: 30px;
    border-radius: 6px;
    font-size: 13px;
    cursor: pointer;
  }
  :global(.date-day[data-outside-range]) {
    color: var(--ink-3);
  }
  :global(.date-day.closed) {
    color: var(--ink-2);
    background: repeating-linear-gradient(135deg, var(--dim) 0 3px, transparent 3px 6px);
  }
  :global(.date-day:hover) {
    background-color: var(--brass-wash);
  }
  :global(.date-day.now) {
    box-shadow: inset 0 -2px 0 var(--brass);
    font-weight: 650;
  }
  :global(.date-day[data-selected]) {
    background: var(--brass-deep);
    color: var(--on-deep);
    font-weight: 650;
  }
  :global(.date-day[data-disabled]) {
    opacity: 0.45;
    cursor: default;
  }
</style>
