<script lang="ts">
  import { getContext } from 'svelte';
  import Effect from '$lib/ui/effect/Effect.svelte';
  import Looking from '$lib/ui/effect/Looking.svelte';
  import type { Send } from '$lib/ui/form/send.ts';
  import type { EffectView } from '$lib/view/effects.ts';

  /** What turning a rule off would end, and then turning it off, by the form around it. */
  let { ruleId, onclose }: { ruleId: number; onclose: () => void } = $props();

  const send = getContext<Send>('send');
  let ends = $state<EffectView | null>(null);
  let part = $state<number | null>(null);

  $effect(() => {
    ends = null;
    part = null;
    void send<EffectView>(`/rules/${ruleId}/off`, {}, (come) => (part = come)).then((answer) => {
      if ('failed' in answer) onclose();
      else ends = answer;
    });
  });
</script>

<section class="sheet" aria-label="Effect of turning it off">
  {#if ends}
    <p>If turned off, it no longer rings. Waiting notices are withdrawn and never sent.</p>
    <Effect effect={ends} />
    <p class="buttons">
      <button class="button main" formaction="?/turnOff">Turn off</button>
      <button type="button" class="button plain" onclick={onclose}>Cancel</button>
    </p>
  {:else}
    <Looking {part} />
  {/if}
</section>

<style>
  section {
    padding: 12px 14px;
    margin-top: 10px;
    display: grid;
    gap: 6px;
  }
  .buttons {
    display: flex;
    gap: 8px;
  }
</style>
