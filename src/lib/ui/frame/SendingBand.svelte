<script lang="ts">
  import { invalidateAll } from '$app/navigation';
  import { getContext } from 'svelte';
  import type { Deed } from '$lib/core/access/deeds.ts';
  import type { Send } from '$lib/ui/form/send.ts';
  import type { Done } from '$lib/ui/form/submit.ts';
  import type { SendingView } from '$lib/view/sending.ts';

  /** Says on every page that nothing leaves, why, and what can be done about it. */
  let { sending }: { sending: SendingView } = $props();

  const done = getContext<(done: Done) => void>('done');
  const may = getContext<(deed: Deed) => boolean>('may');
  const send = getContext<Send>('send');
  let trying = $state(false);

  async function tryNow() {
    trying = true;
    const answer = await send<{ arrived: boolean; words: string }>('/sending', { does: 'try' });
    if (!('failed' in answer) && answer.arrived) done({ done: answer.words });
    await invalidateAll();
    trying = false;
  }

  async function keep(keeps: boolean) {
    const answer = await send<{ message: string; changeId: number }>('/sending/keep', { keeps });
    if (!('failed' in answer)) done({ done: answer.message, changeId: answer.changeId });
    await invalidateAll();
  }
</script>

{#if sending.why !== null}
  <div class="band brick" role="status">
    <b>Nothing is sent</b>
    <span>{sending.why} Messages wait and are sent once this works.</span>
    <span class="acts">
      <button class="button" disabled={trying} onclick={tryNow}>{trying ? 'Trying…' : 'Try now'}</button>
      {#if may('change settings')}
        <a class="button" href="/settings/channels">Channels</a>
        <button class="button" onclick={() => keep(true)}>Keep messages here</button>
      {/if}
    </span>
  </div>
{:else if sending.keeps}
  <div class="band">
    <b>Kept here</b>
    <span>Mail is kept in the <a href="/post-room">Post room</a>. None leaves.</span>
    {#if may('change settings')}<span class="acts"
        ><button class="button plain" onclick={() => keep(false)}>Send mail from now on</button></span
      >{/if}
  </div>
{/if}

<style>
  .band {
    flex-wrap: wrap;
    align-items: center;
    border-radius: 0;
    padding-inline: 22px;
  }
  .acts {
    display: flex;
    flex-wrap: wrap;
    gap: 6px;
    margin-left: auto;
  }
  @media (max-width: 900px) {
    .band {
      padding-inline: 16px;
    }
  }
</style>
