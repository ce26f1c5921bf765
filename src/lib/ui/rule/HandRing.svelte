<script lang="ts">
  import { many } from '$lib/core/many.ts';
  import Effect from '$lib/ui/effect/Effect.svelte';
  import Looking from '$lib/ui/effect/Looking.svelte';
  import { whileUnderWay } from '$lib/ui/frame/notices.svelte.ts';
  import type { HandOverView, RingMany } from './ring-many.ts';

  /** Rules that are rung by hand for many tasks at once: what each would do is said first. */
  interface Props {
    buttons: readonly { ruleId: number; caption: string; confirm: string }[];
    onpreview: RingMany['preview'];
    onring: RingMany['ring'];
  }

  let { buttons, onpreview, onring }: Props = $props();
  let looked = $state<{ ruleId: number; caption: string; confirm: string; preview: HandOverView } | null>(
    null
  );
  let fault = $state('');
  let busy = $state(false);
  let looking = $state(false);
  let part = $state<number | null>(null);
  let asked = $state<number | null>(null);

  async function look(button: Props['buttons'][number]) {
    busy = looking = true;
    fault = '';
    part = null;
    looked = null;
    asked = button.ruleId;
    const answer = await onpreview(button.ruleId, (come) => (part = come));
    busy = looking = false;
    if ('message' in answer) fault = answer.message;
    else looked = { ...button, preview: answer };
  }
  async function ring() {
    if (!looked) return;
    busy = true;
    const { preview, ...button } = looked;
    if (await whileUnderWay('Ringing…', onring(looked.ruleId, preview.effect.stamp))) looked = null;
    // What kept it from being done may have been that it would do something else now.
    else await look(button);
    busy = false;
  }
  const tasks = (count: number) => `${many(count, 'task')}`;
</script>

<div class="buttons offers">
  {#each buttons as button (button.ruleId)}
    <button
      type="button"
      class="button"
      disabled={busy}
      aria-expanded={asked === button.ruleId && looked !== null}
      onclick={() => look(button)}>Ring by hand: {button.caption}</button
    >
  {/each}
</div>
{#if fault}<p class="fault" role="alert">{fault}</p>{/if}
{#if looking}<Looking {part} />{/if}
{#if looked}
  {@const { preview } = looked}
  <section class="sheet" aria-label="What {looked.caption} would do">
    <p>
      <b>{tasks(preview.tasks)}</b> of {preview.chosen}{preview.tasks < preview.chosen
        ? '; the rule does not watch the others'
        : ''}.
    </p>
    {#if preview.acts.length > 0}<p>Each of them: {preview.acts.join('; ')}.</p>{/if}
    {#if preview.tasks > 0}<Effect effect={preview.effect} />{/if}
    {#if preview.names.length > 0}
      <details>
        <summary>Show the tasks</summary>
        <ul>
          {#each preview.names as name, i (i)}<li>{name}</li>{/each}
        </ul>
        {#if preview.tasks > preview.names.length}<p class="quiet">
            and {preview.tasks - preview.names.length} more
          </p>{/if}
      </details>
    {/if}
    {#if looked.confirm}<p>{looked.confirm}</p>{/if}
    <p class="buttons">
      <button type="button" class="button main" disabled={busy || preview.tasks === 0} onclick={ring}
        >Ring for {tasks(preview.tasks)}</button
      >
      <button type="button" class="button plain" onclick={() => (looked = null)}>Cancel</button>
    </p>
  </section>
{/if}

<style>
  .buttons {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
  }
  .offers {
    margin-bottom: 10px;
  }
  section {
    display: grid;
    gap: 6px;
    padding: 12px 14px;
    margin: 0 0 10px;
  }
  ul {
    max-height: 220px;
    overflow-y: auto;
    margin-top: 4px;
    font-size: 13px;
  }
</style>
