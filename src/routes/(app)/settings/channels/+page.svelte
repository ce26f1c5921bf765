<script lang="ts">
  import { enhance } from '$app/forms';
  import { getContext } from 'svelte';
  import type { ChannelName } from '$lib/core/delivery/channel-name.ts';
  import Field from '$lib/ui/form/Field.svelte';
  import TextField from '$lib/ui/form/TextField.svelte';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import type { ActionData, PageData } from './$types';

  let { data, form }: { data: PageData; form: ActionData } = $props();
  const done = getContext<(done: Done) => void>('done');
  const given = $derived((form && 'given' in form ? form.given : {}) as Record<string, string | undefined>);
  const errors = $derived(
    (form && 'errors' in form ? form.errors : {}) as Record<string, string | undefined>
  );
  const value = (name: string, set: string | number | null | undefined) => String(given[name] ?? set ?? '');
  const ROUTES = [
    { n: 1, caption: 'First mail server', hint: 'Empty: the one that the server was started with.' },
    {
      n: 2,
      caption: 'Second mail server',
      hint: 'Taken while the first cannot be reached. Empty: messages wait and are tried again.'
    }
  ] as const;
  const RATES = [
    ['mail', 'Mail'],
    ['text', 'Text messages'],
    ['chat', 'Chat']
  ] as const;
</script>

<svelte:head><title>Channels · Early Bell</title></svelte:head>

{#snippet test(channel: ChannelName, caption: string)}
  {#if data.open.includes(channel)}
    <button class="button" form="test-{channel}">{caption}</button>
    {#if errors[`test ${channel}`]}<span class="brick-text" role="alert">{errors[`test ${channel}`]}</span
      >{/if}
  {/if}
{/snippet}

<p class="quiet"><a href="/settings">Settings</a></p>
<h1>Channels</h1>
<p class="quiet">
  What messages are handed to. By which channel somebody hears of what is chosen on their page.
</p>

{#each ['mail', 'text', 'chat', 'in-app'] as channel (channel)}
  <form id="test-{channel}" method="POST" action="?/test" use:enhance={submitDone(done)}>
    <input type="hidden" name="channel" value={channel} />
  </form>
{/each}

<form method="POST" action="?/save" use:enhance={submitDone(done)} class="mt-3">
  <h2>Mail</h2>
  <p class="now">
    Goes by SMTP to {data.set.now.mail.join(', then ')}.
    {@render test('mail', 'Send me a test message')}
  </p>
  {#each ROUTES as { n, caption, hint } (n)}
    {@const set = data.set.mail[n - 1]}
    <fieldset>
      <legend>{caption}</legend>
      <TextField
        label="Name"
        name="mail{n}Host"
        value={value(`mail${n}Host`, set?.host)}
        error={errors[`mail${n}Host`]}
        {hint}
      />
      <TextField
        label="Port"
        name="mail{n}Port"
        inputmode="numeric"
        value={value(`mail${n}Port`, set?.port ?? 587)}
        error={errors[`mail${n}Port`]}
      />
      <Field label="The line is" error={errors[`mail${n}Tls`]}>
        {#snippet control(attributes)}
          {@const tls = value(`mail${n}Tls`, set?.tls ?? 'starttls')}
          <select class="value" name="mail{n}Tls" {...attributes}>
            <option value="starttls" selected={tls === 'starttls'}>encrypted (STARTTLS)</option>
            <option value="tls" selected={tls === 'tls'}>encrypted (TLS)</option>
            <option value="none" selected={tls === 'none'}>open</option>
          </select>
        {/snippet}
      </Field>
      <TextField
        label="Signs in as"
        name="mail{n}User"
        value={value(`mail${n}User`, set?.user)}
        error={errors[`mail${n}User`]}
        hint="Empty: with nobody’s name."
        autocomplete="off"
      />
      <TextField
        label="Password"
        name="mail{n}Password"
        type="password"
        value=""
        error={errors[`mail${n}Password`]}
        hint={set?.hasPassword ? 'One is kept; empty leaves it.' : undefined}
        autocomplete="new-password"
      />
      <Field
        label="Its own certificate"
        error={errors[`mail${n}Ca`]}
        hint="Only where no public authority has signed it."
      >
        {#snippet control(attributes)}<textarea class="value" rows="2" name="mail{n}Ca" {...attributes}
            >{value(`mail${n}Ca`, set?.ca)}</textarea
          >{/snippet}
      </Field>
    </fieldset>
  {/each}

  <h2>Text messages</h2>
  <p class="now">
    {data.set.now.text ? `Go by HTTP to ${data.set.now.text}.` : 'Are not set up: nobody can choose them.'}
    {@render test('text', 'Send me a text message')}
  </p>
  <fieldset>
    <legend>Gateway</legend>
    <TextField
      label="Address"
      name="textUrl"
      value={value('textUrl', data.set.text?.url)}
      error={errors.textUrl}
      hint="Messages are posted to it as JSON; its receipts come back to this application."
    />
    <TextField
      label="Comes from"
      name="textFrom"
      value={value('textFrom', data.set.text?.from)}
      error={errors.textFrom}
      hint="A number or a short name."
    />
    <TextField
      label="Token"
      name="textToken"
      type="password"
      value=""
      error={errors.textToken}
      hint={data.set.text?.hasToken ? 'One is kept; empty leaves it.' : 'As the gateway gave it.'}
      autocomplete="new-password"
    />
  </fieldset>

  <h2>Chat</h2>
  <p class="now">
    {data.set.now.chat
      ? `Goes to an incoming webhook at ${data.set.now.chat}.`
      : 'Is not set up: nobody can choose it.'}
    {@render test('chat', 'Write to me in the chat')}
  </p>
  <fieldset>
    <legend>Incoming webhook</legend>
    <TextField
      label="Address"
      name="chatUrl"
      type="password"
      value=""
      error={errors.chatUrl}
      hint={data.set.chat
        ? 'One is kept, and not shown: who knows it can post. Empty leaves it.'
        : 'It is kept and not shown again: who knows it can post.'}
      autocomplete="off"
    />
    {#if data.set.chat}<label class="forget"><input type="checkbox" name="chatForget" /> forget it</label
      >{/if}
  </fieldset>

  <h2>In the app</h2>
  <p class="now">
    Stands behind the bell at the top; open pages hear at once.
    {@render test('in-app', 'Say something to me here')}
  </p>

  <h2>How fast</h2>
  <p class="quiet">
    What is more in any sixty seconds waits for its turn, in the order of the instants at which it was to
    leave.
  </p>
  <div class="rates">
    {#each RATES as [name, caption] (name)}
      <fieldset>
        <legend>{caption}</legend>
        <TextField
          label="Messages a minute, in all"
          name="{name}Minute"
          inputmode="numeric"
          value={value(`${name}Minute`, data.set.rates[name].perMinute)}
          error={errors[`${name}Minute`]}
          hint="Empty: no limit."
        />
        <TextField
          label="and to one address"
          name="{name}Address"
          inputmode="numeric"
          value={value(`${name}Address`, data.set.rates[name].perAddress)}
          error={errors[`${name}Address`]}
        />
      </fieldset>
    {/each}
  </div>
  <p class="mt-4"><button class="button main">Save the channels</button></p>
</form>

<style>
  h2 {
    margin: 22px 0 4px;
  }
  .now {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 6px 14px;
  }
  fieldset {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(220px, 1fr));
    gap: 10px 16px;
    max-width: 980px;
    margin-top: 10px;
    padding-top: 8px;
    border-top: 1px solid var(--line-soft);
  }
  legend {
    float: left;
    width: 100%;
    grid-column: 1 / -1;
    font-weight: 600;
    font-size: 13px;
  }
  .rates {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(260px, 1fr));
    gap: 0 24px;
    max-width: 980px;
  }
  fieldset :global(.value) {
    width: 100%;
    min-width: 0;
  }
  .forget {
    display: flex;
    align-items: center;
    gap: 6px;
    font-size: 13px;
  }
</style>
