<script lang="ts">
  import type { HTMLInputAttributes } from 'svelte/elements';
  import Field from './Field.svelte';

  /** A line of text with its label, what is wrong with it and what it means. */
  interface Props extends Omit<HTMLInputAttributes, 'value' | 'name'> {
    label: string;
    name: string;
    value: string;
    error?: string;
    hint?: string;
  }

  let { label, name, value, error, hint, ...rest }: Props = $props();
</script>

<Field {label} {error} {hint}>
  {#snippet control(attributes)}<input class="value" {name} {value} {...rest} {...attributes} />{/snippet}
</Field>
