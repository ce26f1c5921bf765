<script lang="ts">
  import type { ComponentProps } from 'svelte';
  import type DateField from './DateField.svelte';

  /** A date field of a place that is mostly read without one: it is loaded when it is first shown. */
  let props: ComponentProps<typeof DateField> = $props();
</script>

{#await import('./DateField.svelte')}<span class="value" aria-busy="true">{props.value ?? ''}</span
  >{:then { default: Field }}<Field {...props} />{/await}
