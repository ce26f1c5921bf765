<script lang="ts">
  import type { Snippet } from 'svelte';

  interface Props {
    label: string;
    /** What is wrong with the value, in words. */
    error?: string;
    hint?: string;
    /** The control; it is handed its id and what describes it. */
    control: Snippet<[{ id: string; 'aria-describedby': string | undefined; 'aria-invalid': boolean }]>;
  }

  let { label, error, hint, control }: Props = $props();
  const id = $props.id();
  const described = $derived(
    [error ? `${id}-error` : '', hint ? `${id}-hint` : ''].filter(Boolean).join(' ')
  );
</script>

<div class="field">
  <label for={id}>{label}</label>
  {@render control({ id, 'aria-describedby': described || undefined, 'aria-invalid': Boolean(error) })}
  {#if hint}<span class="quiet" id="{id}-hint">{hint}</span>{/if}
  {#if error}<span class="fault" id="{id}-error">{error}</span>{/if}
</div>
