<script lang="ts">
  import { getContext } from 'svelte';
  import HushPart from '$lib/ui/hush/HushPart.svelte';
  import { Later } from '$lib/ui/later/later.svelte.ts';
  import LaterFault from '$lib/ui/later/LaterFault.svelte';
  import Looking from '$lib/ui/effect/Looking.svelte';
  import type { Done } from '$lib/ui/form/submit.ts';
  import ChannelsPart from '$lib/ui/person/ChannelsPart.svelte';
  import LeavePart from '$lib/ui/person/LeavePart.svelte';
  import QuietPart from '$lib/ui/person/QuietPart.svelte';
  import StandingPart from '$lib/ui/told/StandingPart.svelte';
  import ToldEffect from '$lib/ui/told/ToldEffect.svelte';
  import ToldWeek from '$lib/ui/told/ToldWeek.svelte';
  import { FormLook } from '$lib/ui/told/form-look.svelte.ts';
  import type { ActionData, PageData } from './$types';

  let { data, form }: { data: PageData; form: ActionData } = $props();
  const done = getContext<(done: Done) => void>('done');
  const week = new Later(() => data.week);
  const look = new FormLook();
  let page: HTMLElement | undefined = $state();
  const faultOf = (name: string) => (form && 'form' in form && form.form === name ? form : null);

  // What was said of a form is over once the page is read anew: it was saved.
  $effect(() => {
    void data.week;
    look.clear();
    if (page) look.begin(page);
  });
</script>

<svelte:head><title>What I am told · Early Bell</title></svelte:head>

<h1>What I am told</h1>
<p class="quiet mb-3">
  Before you save a change, you see here what it would do to your next seven days. <a href="/people/{data.me}"
    >Your page</a
  >
</p>

<div
  class="columns"
  bind:this={page}
  oninput={look.touched}
  onchange={look.touched}
  onfocusin={look.touched}
  onfocusout={look.touched}
>
  <div class="choices">
    <section><StandingPart standing={data.standing} fault={faultOf('remind')} /></section>
    <section><QuietPart set={data.preferences} fault={faultOf('quiet')} /></section>
    {#if data.channels}<section>
        <ChannelsPart channels={data.channels} fault={faultOf('channels')} atOnce={false} />
      </section>{/if}
    <section>
      <h2 class="mt-5">Digests I get</h2>
      {#if data.digests.length === 0}<p class="quiet">None.</p>{/if}
      <ul>
        {#each data.digests as digest (digest.id)}
          <li>
            <b>{digest.name}</b>, {digest.when}<span class="quiet block"
              >{digest.next
                ? `next ${digest.next}`
                : 'It does not come: you have set no digest time, or it has ended.'}</span
            >
          </li>
        {/each}
      </ul>
    </section>
    <section>
      <LeavePart
        personId={data.me}
        leave={data.leave}
        standsInFor={data.standsInFor}
        people={data.people}
        fault={faultOf('leave')}
      />
    </section>
    <section>
      <h2 class="mt-5">No notices for a while</h2>
      <HushPart
        hush={data.hush}
        what="me"
        ondone={done}
        fault={Object.values(faultOf('hush')?.errors ?? {})[0]}
      />
    </section>
  </div>

  <aside aria-label="The next seven days">
    {#if look.act}
      <section class="sheet would" aria-live="polite" aria-label="What this would change">
        <h2>What this would change</h2>
        {#if look.fault}<p class="fault">{look.fault}</p>
        {:else if look.effect}<ToldEffect effect={look.effect} />
        {:else}<Looking part={look.part} />{/if}
      </section>
    {/if}
    <section aria-labelledby="week">
      <h2 id="week">My next seven days</h2>
      {#if week.failed}<LaterFault what="What comes to you" />
      {:else if !week.value}<p class="quiet waits" aria-live="polite">Computing what comes to you…</p>
      {:else}<ToldWeek week={week.value} />{/if}
    </section>
  </aside>
</div>

<style>
  .columns {
    display: grid;
    grid-template-columns: minmax(0, 3fr) minmax(260px, 2fr);
    gap: 32px;
    align-items: start;
  }
  aside {
    position: sticky;
    top: 12px;
    display: grid;
    gap: 14px;
  }
  .would {
    padding: 10px 14px;
    border-left: 3px solid var(--brass);
    max-height: 60vh;
    overflow: auto;
  }
  li {
    padding: 4px 0;
  }
  @media (max-width: 900px) {
    .columns {
      grid-template-columns: minmax(0, 1fr);
    }
    /* What a change would do stays in sight of the form that makes it. */
    aside {
      position: static;
    }
    .would {
      position: fixed;
      inset: auto 0 0;
      z-index: 20;
      border-radius: 0;
      max-height: 40vh;
    }
  }
</style>
