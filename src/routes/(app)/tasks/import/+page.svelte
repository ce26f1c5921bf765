<script lang="ts">
  import Stages from '$lib/ui/parts/Stages.svelte';
  import FileField from '$lib/ui/parts/FileField.svelte';
  import Progress from '$lib/ui/parts/Progress.svelte';
  import { goto } from '$app/navigation';
  import { onDestroy } from 'svelte';
  import { followUpload, type Far } from './follow.ts';
  import type { PageData } from './$types';

  let { data }: { data: PageData } = $props();
  let chosen = $state<File | null>(null);
  let message = $state('');
  let progress = $state<Far | null>(null);
  let request: XMLHttpRequest | null = null;
  /** Whether the server is asked how far it is. */
  let watching = false;

  /** Sends the file as it is, so that the server can stop reading one that is too large. */
  function upload(file: File) {
    message = '';
    if (file.size > data.mostBytes) {
      message = data.tooLarge;
      return;
    }
    progress = { text: 'Sending the file', part: 0 };
    request = new XMLHttpRequest();
    request.open('PUT', `/tasks/import/upload?name=${encodeURIComponent(file.name)}&token=${data.token}`);
    request.upload.onprogress = ({ loaded, total }) =>
      (progress = { text: 'Sending the file', part: total ? loaded / total : 0 });
    request.upload.onload = () => void watch();
    request.onload = () => void finish(request!);
    request.onerror = () => stop('The file was not sent: the server does not answer or stopped reading.');
    request.onabort = () => stop('');
    request.send(file);
  }

  async function finish({ status, responseText }: XMLHttpRequest) {
    const answer = answerOf(responseText);
    // A long file is checked before its page can be shown.
    if (status === 200 && answer.token) await goto(`/tasks/import/${answer.token}`);
    else stop(answer.message ?? 'The server refused the file.');
  }

  function answerOf(text: string): { token?: string; message?: string } {
    try {
      return JSON.parse(text) as { token?: string; message?: string };
    } catch {
      return { message: 'The server’s answer cannot be read. Nothing was imported.' };
    }
  }

  function watch() {
    watching = true;
    return followUpload(
      data.token,
      () => !watching,
      (far) => (progress = far)
    );
  }

  function stop(reason: string) {
    watching = false;
    progress = null;
    message = reason;
  }

  onDestroy(() => {
    watching = false;
    request?.abort();
  });
</script>

<svelte:head><title>Import tasks · Early Bell</title></svelte:head>

<p class="quiet"><a href="/tasks">Tasks</a></p>
<h1>Import tasks from a CSV file</h1>
<div class="my-2"><Stages label="Importing" stages={['choose a file', 'check it', 'import']} at={0} /></div>
<p class="mt-2 mb-4 max-w-[70ch]">
  The first line names the columns. The task is required; owner, due date and project help. Any delimiter
  works. Problem rows are shown before anything is saved. You can undo the import.
</p>

{#if message}<p class="band brick mb-4" role="alert"><b>Not imported</b><span>{message}</span></p>{/if}

{#if progress}
  <p class="mb-1" aria-live="polite">{progress.text}…</p>
  <Progress part={progress.part} label={progress.text} />
  <p class="mt-3"><button class="button" onclick={() => request?.abort()}>Stop</button></p>
{:else}
  <form
    onsubmit={(event) => {
      event.preventDefault();
      if (chosen) upload(chosen);
      else message = 'Choose a file first.';
    }}
    class="grid max-w-[420px] gap-3"
  >
    <FileField label="CSV file, up to 20 MB or 100,000 rows" onchange={(file) => (chosen = file)} />
    <button class="button main justify-self-start">Check the file</button>
  </form>
{/if}
