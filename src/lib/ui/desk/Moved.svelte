<script lang="ts">
  import Effect from '$lib/ui/effect/Effect.svelte';
  import { askJson } from '$lib/ui/form/send.ts';
  import type { EffectView } from '$lib/view/effects.ts';

  /** What a new due date would move, before it is saved. */
  let { body }: { body: Record<string, unknown> } = $props();
  let moved = $state.raw<EffectView | null>(null);
  let fault = $state('');

  $effect(() => {
    const asked = body;
    const timer = setTimeout(() => {
      void askJson<EffectView>('/desk/effect', asked).then((said) => {
        if (asked !== body || !said) return;
        moved = said.ok ? said.answer : null;
        fault = said.ok ? '' : said.message;
      });
    }, 250);
    return () => clearTimeout(timer);
  });
</script>

{#if fault}<p class="fault" role="alert">{fault}</p>{/if}
{#if moved}<div class="effect" role="status"><Effect effect={moved} /></div>{/if}

<style>
  .effect {
    flex-basis: 100%;
    border-left: 3px solid var(--brass);
    padding-left: 12px;
  }
</style>
