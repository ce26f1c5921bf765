<script lang="ts">
  import { goto } from '$app/navigation';
  import { page } from '$app/state';
  import AddressSelect from './AddressSelect.svelte';
  import { askedIn, named, withParameter } from './address.ts';
  import DateField from '../form/date/DateField.svelte';

  type Named = { id: number; name: string };
  /** What of a record is looked for; it stands in the address. */
  interface Props {
    /** The first choice: its name in the address, what it is called, and what it can be. */
    first: { name: string; label: string; options: readonly { value: string; label: string }[] };
    searches: string;
    rules: readonly Named[];
    people: readonly Named[];
    /** Files to be taken away, by their addresses. */
    files: readonly string[];
  }

  let { first, searches, rules, people, files }: Props = $props();
  const of = (name: string) => page.url.searchParams.get(name) ?? '';

  const set = (name: string, value: string) =>
    void goto(withParameter(page.url, name, value), { keepFocus: true, noScroll: true });
</script>

<div class="filters no-print" role="search">
  <input
    class="value"
    type="search"
    placeholder={searches}
    aria-label={searches}
    value={of('text')}
    onchange={(event) => set('text', event.currentTarget.value.trim())}
  />
  <AddressSelect name={first.name} label={first.label} any="{first.label}: any" options={first.options} />
  <AddressSelect name="rule" label="Rule" any="any rule" options={named(rules, 'A rule without a name')} />
  <AddressSelect name="person" label="Person" any="anybody" options={named(people, '')} />
  <label>from <DateField label="from" value={of('from')} onchange={(day) => set('from', day ?? '')} /></label>
  <label
    >until <DateField label="until" value={of('until')} onchange={(day) => set('until', day ?? '')} /></label
  >
  <span class="files">
    {#each files as file (file)}<a class="button plain" href="{file}{askedIn(page.url)}" download
        >Export {file.endsWith('.csv') ? 'CSV' : 'JSON'}</a
      >{/each}
  </span>
</div>

<style>
  .filters {
    display: flex;
    flex-wrap: wrap;
    gap: 6px 8px;
    align-items: center;
    margin: 10px 0 4px;
    font-size: 13px;
  }
  input[type='search'] {
    width: 170px;
  }
  label {
    display: inline-flex;
    gap: 5px;
    align-items: center;
    color: var(--ink-3);
  }
  .files {
    margin-left: auto;
    display: flex;
    gap: 2px;
  }
</style>
