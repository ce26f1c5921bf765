<script lang="ts">
  import { agree } from '$lib/core/many.ts';
  import type { SweepNowView } from '$lib/view/sweeps.ts';

  /** What a sweep would take now; asked for when it is shown, and again when what it goes by changes. */
  interface Props {
    ask: () => Promise<SweepNowView | string>;
    /** What the answer goes by. */
    of: unknown;
    /** Only how many, in one line. */
    short?: boolean;
  }

  let { ask, of, short = false }: Props = $props();
  let answer = $state<SweepNowView | string | null>(null);

  $effect(() => {
    void of;
    let overtaken = false;
    const timer = setTimeout(async () => {
      const found = await ask();
      if (!overtaken) answer = found;
    }, 200);
    return () => {
      overtaken = true;
      clearTimeout(timer);
    };
  });
</script>

{#if answer === null}<span class="quiet">being counted…</span>
{:else if typeof answer === 'string'}<span class="fault" role="alert">{answer}</span>
{:else}<b>{answer.taken}</b>
  {agree(answer.taken, 'task', 'tasks')}{#if !short}<span class="quiet block"
      >{answer.waiting} not yet · {answer.protected} protected</span
    >{/if}{/if}
