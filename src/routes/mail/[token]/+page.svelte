<script lang="ts">
  import { enhance } from '$app/forms';
  import Threshold from '$lib/ui/frame/Threshold.svelte';
  import type { ActionData, PageData } from './$types';

  let { data, form }: { data: PageData; form: ActionData } = $props();
  const { mail } = $derived(data);
  const what = $derived(
    mail?.kinds ? `mail of the kind ${mail.kinds.map((kind) => `“${kind}”`).join(' or ')}` : 'any mail'
  );
</script>

<Threshold title={mail ? (mail.stopped ? 'This mail is stopped' : 'Stop this mail?') : 'This link'}>
  {#if mail}
    <p role="status">
      {#if mail.stopped}
        {mail.reader} gets no more {what} from {mail.workspace}.
      {:else}
        {mail.reader} gets {what} from {mail.workspace}.
      {/if}
      {#if mail.instead}{mail.stopped ? 'It comes' : 'Once it is stopped it comes'} by other ways: {mail.instead}.
        Rules with mail as a fixed channel still send mail.{/if}
    </p>
    <form method="POST" class="grid gap-2" use:enhance>
      {#if mail.stopped}
        <button class="button press" name="do" value="go on">Send it again</button>
      {:else}
        <button class="button main press" name="do" value="stop">Stop it</button>
      {/if}
    </form>
    <p class="quiet">
      {mail.stopped ? 'You can close this page.' : 'Nothing happens before you press.'}
      {#if mail.page}<a href={mail.page}>Everything that you are told</a> is chosen in Early Bell.{/if}
    </p>
  {:else}
    <p class="band brick" role="alert">
      <b>It does nothing</b><span>{form?.problem ?? data.problem}</span>
    </p>
  {/if}
</Threshold>

<style>
  .press {
    min-height: 44px;
    justify-content: center;
    font-size: 15px;
  }
</style>
