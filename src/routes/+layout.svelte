<script lang="ts">
  import { onMount } from 'svelte';
  import '../styles/app.css';
  import type { Snippet } from 'svelte';

  let { children }: { children: Snippet } = $props();

  // From here on the page answers to keys and presses; tests wait for it, as a person does without knowing.
  onMount(() => {
    document.documentElement.dataset.started = '';
  });
</script>

{@render children()}
