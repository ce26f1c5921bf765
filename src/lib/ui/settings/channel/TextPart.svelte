<script lang="ts">
  import TextField from '$lib/ui/form/TextField.svelte';
  import type { ChannelPartProps } from './part-props.ts';

  /** A gateway for text messages. */
  let { set, value, errors, test }: ChannelPartProps = $props();
</script>

<h2>Text messages</h2>
<p class="now">
  {set.now.text.length > 0 ? `Sent by HTTP to ${set.now.text[0]}.` : 'Not set up: nobody can choose it.'}
  {@render test('Send me a text message')}
</p>
<fieldset>
  <legend>Gateway</legend>
  <TextField
    label="Address"
    name="textUrl"
    value={value('textUrl', set.text?.url)}
    error={errors.textUrl}
    hint="Messages are posted to it as JSON. It returns receipts to this application."
  />
  <TextField
    label="Comes from"
    name="textFrom"
    value={value('textFrom', set.text?.from)}
    error={errors.textFrom}
    hint="A number or a short name."
  />
  <TextField
    label="Token"
    name="textToken"
    type="password"
    value=""
    error={errors.textToken}
    hint={set.text?.hasToken ? 'Saved. Leave empty to keep it.' : 'The token from the gateway.'}
    autocomplete="new-password"
  />
</fieldset>
