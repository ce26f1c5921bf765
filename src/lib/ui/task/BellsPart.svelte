<script lang="ts">
  import { untrack } from 'svelte';
  import { many } from '$lib/core/many.ts';
  import BellLine from '$lib/ui/bell/BellLine.svelte';
  import BellTable from '$lib/ui/bell/BellTable.svelte';
  import { readJson } from '$lib/ui/form/send.ts';
  import type { PastBell, TaskDetailView, WholeTaskBells } from '$lib/view/task-detail.ts';

  /** A task's bells: on a line, and in tables that say why. What comes again and again is listed three times, and whole when it is asked for. */
  let { task }: { task: TaskDetailView } = $props();

  let opened: string | null = $state(null);
  /** All of them were asked for. */
  let asked = $state(false);
  let whole: WholeTaskBells | null = $state.raw(null);
  let failed = $state(false);
  const isWhole = $derived(asked && whole !== null);
  const bells = $derived(asked && whole ? whole : task);

  // The task is read again whenever something of it changes, and then so are its bells; until they have come the last ones stand.
  $effect(() => {
    const { id } = task;
    if (!asked) return;
    let overtaken = false;
    void readJson<WholeTaskBells>(`/tasks/${id}/bells`).then((read) => {
      if (overtaken) return;
      failed = read === null;
      if (read) whole = read;
      else asked = whole !== null;
    });
    return () => (overtaken = true);
  });

  const became = (what: PastBell['became']) =>
    bells.past.filter((one) => one.became === what).map(({ bell }) => bell);
  const sent = $derived(became('sent'));
  /** Without a time of their own: they leave when the task waits for others no more. */
  const standing = $derived(became('held'));
  const silent = $derived(became('not sent'));
  const further = $derived(task.further.reduce((all, { count }) => all + count, 0));
  const unlisted = $derived(further + task.earlier.sent + task.earlier.silent);
  const all = (listed: number, earlier: number) => (isWhole ? `${listed}` : `${listed + earlier}`);

  /** Short lists stand open; what is in a long one is drawn when it is opened. */
  const SHORT = 4;
  let sentOpen = $state(untrack(() => sent.length < SHORT));
  let silentOpen = $state(untrack(() => silent.length < SHORT));
</script>

<h3>Bells</h3>
{#if bells.coming.length > 0 || bells.past.length > 0}
  <BellLine
    past={[...sent, ...standing, ...silent]}
    coming={bells.coming}
    ticks={isWhole ? [] : task.ticks}
    beyond={isWhole ? 0 : task.beyond}
    nowMs={task.nowMs}
    dueMs={task.dueMs}
    onpress={(key) => {
      opened = key;
      sentOpen ||= sent.some((bell) => bell.key === key);
      silentOpen ||= silent.some((bell) => bell.key === key);
      requestAnimationFrame(() =>
        document.getElementById(`bell-${key}`)?.scrollIntoView({ block: 'nearest' })
      );
    }}
  />
{/if}
{#if bells.coming.length > 0}
  <BellTable
    bells={bells.coming}
    further={isWhole ? [] : task.further}
    caption="Bells to come"
    showTask={bells.coming.some(({ taskId }) => taskId !== task.id)}
    bind:opened
  />
{:else}
  <p class="quiet">No rule will ring for this task.</p>
{/if}
{#each task.rules.filter(({ broken }) => broken) as rule (rule.id)}
  <p class="band brick">
    <b>Cannot be computed</b><span>“{rule.name}” does not ring for this task. {rule.broken}</span>
  </p>
{/each}
{#if standing.length > 0}
  <details open>
    <summary>Waiting while the task is stuck ({standing.length})</summary>
    <BellTable
      bells={standing}
      caption="Notices that wait while the task is stuck"
      showTask={false}
      bind:opened
    />
  </details>
{/if}
{#if sent.length > 0}
  <details bind:open={sentOpen}>
    <summary>Sent ({all(sent.length, task.earlier.sent)})</summary>
    {#if sentOpen}
      {#if !isWhole && task.earlier.sent > 0}<p class="quiet">The last {sent.length}.</p>{/if}
      <BellTable bells={sent} caption="Notices that were sent" showTask={false} bind:opened />
    {/if}
  </details>
{/if}
{#if silent.length > 0}
  <details bind:open={silentOpen}>
    <summary>Not sent ({all(silent.length, task.earlier.silent)})</summary>
    {#if silentOpen}
      {#if !isWhole && task.earlier.silent > 0}<p class="quiet">The last {silent.length}.</p>{/if}
      <BellTable bells={silent} caption="Notices that were not sent" showTask={false} bind:opened />
    {/if}
  </details>
{/if}
{#if unlisted > 0 && !isWhole}
  <p class="no-print">
    <button type="button" class="button" disabled={asked} onclick={() => (asked = true)}
      >{asked ? 'Reading them…' : `List the other ${many(unlisted, 'bell')}`}</button
    >
    {#if failed}<span class="fault" role="alert">They could not be read. Press again.</span>{/if}
  </p>
{/if}
