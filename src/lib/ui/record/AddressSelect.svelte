<script lang="ts">
  import { goto } from '$app/navigation';
  import { page } from '$app/state';
  import { withParameter } from './address.ts';

  /** One choice that stands in the address. */
  interface Props {
    /** Its name in the address. */
    name: string;
    label: string;
    /** What is said where nothing is chosen. */
    any: string;
    options: readonly { value: string; label: string }[];
  }

  let { name, label, any, options }: Props = $props();

  const set = (value: string) =>
    void goto(withParameter(page.url, name, value), { keepFocus: true, noScroll: true });
</script>

<select
  class="value"
  aria-label={label}
  value={page.url.searchParams.get(name) ?? ''}
  onchange={(event) => set(event.currentTarget.value)}
>
  <option value="">{any}</option>
  {#each options as { value, label: words } (value)}<option {value}>{words}</option>{/each}
</select>

<style>
  select {
    max-width: 170px;
  }
</style>
