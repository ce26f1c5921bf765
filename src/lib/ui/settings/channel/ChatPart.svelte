<script lang="ts">
  import TextField from '$lib/ui/form/TextField.svelte';
  import type { ChannelPartProps } from './part-props.ts';

  /** The incoming webhook of a chat. */
  let { set, errors, test }: ChannelPartProps = $props();
</script>

<h2>Chat</h2>
<p class="now">
  {set.now.chat.length > 0
    ? `Goes to an incoming webhook at ${set.now.chat[0]}.`
    : 'Not set up: nobody can choose it.'}
  {@render test('Send me a chat message')}
</p>
<fieldset>
  <legend>Incoming webhook</legend>
  <TextField
    label="Address"
    name="chatUrl"
    type="password"
    value=""
    error={errors.chatUrl}
    hint={set.chat
      ? 'Saved and hidden, because it allows posting. Leave empty to keep it.'
      : 'Saved and not shown again: who knows it can post.'}
    autocomplete="off"
  />
  {#if set.chat}<label class="forget"><input type="checkbox" name="chatForget" /> Remove it</label>{/if}
</fieldset>

<style>
  .forget {
    display: flex;
    align-items: center;
    gap: 6px;
    font-size: 13px;
  }
</style>
