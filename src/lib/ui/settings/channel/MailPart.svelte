<script lang="ts">
  import Field from '$lib/ui/form/Field.svelte';
  import TextField from '$lib/ui/form/TextField.svelte';
  import type { ChannelPartProps } from './part-props.ts';

  /** One mail server, and another for when it cannot be reached. */
  let { set, value, errors, test }: ChannelPartProps = $props();
  const keeps = $derived(value('mailDoes', set.keepsMail ? 'keep' : 'send') === 'keep');
  const ROUTES = [
    { n: 1, caption: 'First mail server', hint: 'Empty: from the server’s start settings.' },
    {
      n: 2,
      caption: 'Second mail server',
      hint: 'Used if the first cannot be reached. Empty: messages wait.'
    }
  ] as const;
</script>

<h2>Mail</h2>
<p class="now">
  Sent by SMTP to {set.now.mail.join(', then ')}.
  {@render test('Send me a test message')}
</p>
<fieldset>
  <legend>What happens to mail</legend>
  <label
    ><input type="radio" name="mailDoes" value="send" checked={!keeps} /> Send it by the mail servers below</label
  >
  <label
    ><input type="radio" name="mailDoes" value="keep" checked={keeps} /> Keep it in the Post room here; nothing
    leaves</label
  >
</fieldset>
{#each ROUTES as { n, caption, hint } (n)}
  {@const route = set.mail[n - 1]}
  <fieldset>
    <legend>{caption}</legend>
    <TextField
      label="Name"
      name="mail{n}Host"
      value={value(`mail${n}Host`, route?.host)}
      error={errors[`mail${n}Host`]}
      {hint}
    />
    <TextField
      label="Port"
      name="mail{n}Port"
      inputmode="numeric"
      value={value(`mail${n}Port`, route?.port ?? 587)}
      error={errors[`mail${n}Port`]}
    />
    <Field label="Encryption" error={errors[`mail${n}Tls`]}>
      {#snippet control(attributes)}
        {@const tls = value(`mail${n}Tls`, route?.tls ?? 'starttls')}
        <select class="value" name="mail{n}Tls" {...attributes}>
          <option value="starttls" selected={tls === 'starttls'}>encrypted (STARTTLS)</option>
          <option value="tls" selected={tls === 'tls'}>encrypted (TLS)</option>
          <option value="none" selected={tls === 'none'}>open</option>
        </select>
      {/snippet}
    </Field>
    <TextField
      label="User name"
      name="mail{n}User"
      value={value(`mail${n}User`, route?.user)}
      error={errors[`mail${n}User`]}
      hint="Empty: no sign-in."
      autocomplete="off"
    />
    <TextField
      label="Password"
      name="mail{n}Password"
      type="password"
      value=""
      error={errors[`mail${n}Password`]}
      hint={route?.hasPassword ? 'Saved. Leave empty to keep it.' : undefined}
      autocomplete="new-password"
    />
    <Field label="Own certificate" error={errors[`mail${n}Ca`]} hint="Only if it is not publicly signed.">
      {#snippet control(attributes)}<textarea class="value" rows="2" name="mail{n}Ca" {...attributes}
          >{value(`mail${n}Ca`, route?.ca)}</textarea
        >{/snippet}
    </Field>
  </fieldset>
{/each}
