<script lang="ts">
  import { enhance } from '$app/forms';
  import type { SubmitFunction } from '@sveltejs/kit';
  import { getContext } from 'svelte';
  import TextField from '$lib/ui/form/TextField.svelte';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import type { ChannelsView } from '$lib/view/channels.ts';

  /** By which channels a person hears of what. */
  interface Props {
    channels: ChannelsView;
    /** Whether each tick is saved by itself; else all of it by a button. */
    atOnce?: boolean;
    fault: { errors: Record<string, string>; given: Record<string, unknown> } | null;
  }

  let { channels, fault, atOnce = true }: Props = $props();
  const done = getContext<(done: Done) => void>('done');
  let form: HTMLFormElement | undefined = $state();
  let sending = false;
  let again = false;

  /** One after the other: a tick that comes while another is being saved is saved once that is done, with everything that is ticked then. */
  function tick() {
    if (sending) again = true;
    else form?.requestSubmit();
  }
  const save = ((input) => {
    sending = true;
    const after = submitDone(done)(input);
    return async (outcome) => {
      const more = again;
      again = sending = false;
      if (more) form?.requestSubmit();
      else await (await after)?.(outcome);
    };
  }) satisfies SubmitFunction;
</script>

<h2 class="mt-5">Channels</h2>
<p class="quiet">
  {atOnce ? 'Choices are saved at once. ' : ''}If no chosen channel can be used, the first usable one is used.
</p>
<form bind:this={form} method="POST" action="?/channels" use:enhance={save}>
  <table>
    <caption class="sr">Channels by kind of message</caption>
    <thead>
      <tr>
        <th scope="col">Kind</th>
        {#each channels.columns as { channel, words, note } (channel)}<th scope="col" data-head={words}
            >{words}<span class="quiet block font-normal">{note}</span></th
          >{/each}
      </tr>
    </thead>
    <tbody>
      {#each channels.rows as { kind, words, cells } (kind)}
        <tr>
          <th scope="row">{words}</th>
          {#each cells as { channel, label, chosen, cannot } (channel)}
            <td>
              {#if cannot}<span class="quiet">{cannot}</span>
              {:else}<input
                  type="checkbox"
                  name="choice"
                  value="{kind}/{channel}"
                  aria-label={label}
                  checked={chosen}
                  onchange={atOnce ? tick : undefined}
                />{/if}
            </td>
          {/each}
        </tr>
      {/each}
    </tbody>
  </table>
  <div class="row">
    <TextField
      label="Chat name"
      name="chat"
      value={String(fault?.given.chat ?? channels.chat)}
      error={fault?.errors.chat ?? fault?.errors['']}
    />
    <button class="button">{atOnce ? 'Save the name' : 'Save the channels'}</button>
  </div>
</form>

<style>
  table {
    max-width: 620px;
    margin-top: 8px;
  }
  tbody th {
    font-weight: 500;
    border-color: var(--line-soft);
  }
  td {
    font-size: 12px;
  }
  .row {
    display: flex;
    align-items: end;
    gap: 10px;
    margin-top: 10px;
    max-width: 420px;
  }
</style>
