<script lang="ts">
  import { onMount } from 'svelte';
  import '../styles/app.css';
  import type { Snippet } from 'svelte';
  import { keepWholePresses } from '$lib/ui/frame/whole-press.ts';

  let { children }: { children: Snippet } = $props();

  // From here on the page answers to keys and presses; tests wait for it, as a person does without knowing.
  onMount(() => {
    document.documentElement.dataset.started = '';
    return keepWholePresses(document);
  });
</script>

{@render children()}
