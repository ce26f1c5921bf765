<script lang="ts">
  import { afterNavigate, goto, invalidate, invalidateAll } from '$app/navigation';
  import { navigating, page } from '$app/state';
  import { setContext, type Snippet } from 'svelte';
  import { asked } from '$lib/ui/dialog/ask.svelte.ts';
  import { recent } from '$lib/ui/dialog/recent.ts';
  import { placesFor } from '$lib/ui/frame/places.ts';
  import { askBeforeLeaving } from '$lib/ui/form/leaving.ts';
  import type { GoToItem } from '$lib/view/go-to.ts';
  import { guideOf } from '$lib/ui/guide/guides.ts';
  import { countedTitle } from '$lib/ui/frame/counted-title.ts';
  import QuickAdd from '$lib/ui/frame/QuickAdd.svelte';
  import { Bell } from '$lib/ui/frame/bell.svelte.ts';
  import { keepsFocus, letGoOfFocus } from '$lib/ui/frame/kept-focus.ts';
  import Notices from '$lib/ui/frame/Notices.svelte';
  import SendingBand from '$lib/ui/frame/SendingBand.svelte';
  import Rail from '$lib/ui/frame/Rail.svelte';
  import TopBar from '$lib/ui/frame/TopBar.svelte';
  import type { ClockMove } from '$lib/ui/frame/clock-move.ts';
  import {
    announce,
    announceDone,
    announceWith,
    forgetLatest,
    undoLatest,
    whileUnderWay
  } from '$lib/ui/frame/notices.svelte.ts';
  import type { Deed } from '$lib/core/access/deeds.ts';
  import { DaysSource } from '$lib/ui/form/date/days-source.ts';
  import { stackedTables } from '$lib/ui/table/stacked.ts';
  import { UnsavedForms } from '$lib/ui/form/unsaved.ts';
  import { askJson, postJson, readJson } from '$lib/ui/form/send.ts';
  import { NO_ANSWER, type Done } from '$lib/ui/form/submit.ts';
  import type { BehindBellView } from '$lib/view/behind-bell.ts';
  import type { DaysView } from '$lib/view/days.ts';
  import type { QuickView } from '$lib/view/quick-add.ts';
  import type { LayoutData } from './$types';

  let { data, children }: { data: LayoutData; children: Snippet } = $props();
  let moving = $state(false);
  const unsaved = new UnsavedForms();
  askBeforeLeaving(
    () => unsaved.any,
    'Your text is not saved. Leave the page?',
    () => unsaved.forget()
  );
  afterNavigate(({ from, to }) => {
    if (from?.url.pathname !== to?.url.pathname) letGoOfFocus();
    if (to) recent.visit(to.url.pathname, countedTitle(document.title, 0));
    document.title = countedTitle(document.title, news);
  });
  /** Which sheet is over the page. */
  let sheet = $state<'go' | 'keys' | 'guide' | 'line' | null>(null);
  const guide = $derived(guideOf(page.url.pathname));
  const places = $derived(placesFor(data.frame.deeds, data.frame.postRoom));
  const acts = $derived([
    { name: 'Add a task', do: () => quickAdd?.show() },
    { name: 'Keep a line', do: () => (sheet = 'line') },
    ...(data.frame.deeds.includes('make rules')
      ? [
          { name: 'New rule from a starter', do: () => goto('/rules/starters') },
          { name: 'Out of earshot: tasks no rule reaches', do: () => goto('/tasks?set=out+of+earshot') }
        ]
      : []),
    ...(data.frame.deeds.includes('look after people')
      ? [{ name: 'Add a person', do: () => goto('/people/new') }]
      : []),
    ...(data.frame.deeds.includes('bring tasks in')
      ? [{ name: 'Import tasks from a CSV file', do: () => goto('/tasks/import') }]
      : []),
    ...(guide ? [{ name: `How ${guide.title} works`, do: () => (sheet = 'guide') }] : []),
    { name: 'Show the keys', do: () => (sheet = 'keys') },
    { name: 'Your page: zone, leave, quiet hours', do: () => goto(`/people/${data.frame.person.id}`) }
  ]);
  const find = async (text: string) =>
    (await readJson<GoToItem[]>(`/go?${new URLSearchParams({ text })}`)) ?? [];
  let quickAdd: QuickAdd | undefined = $state();

  /** “Next bell in 20 min · 3 people”; null when nothing is planned, or it is not known now. */
  const nextBell = async () => (await readJson<{ next: string | null }>('/bell/next'))?.next ?? null;
  // A bell that could not be read now is read when it is next opened or rung.
  const bell = new Bell({
    read: () => readJson<BehindBellView>('/bell'),
    see: async (id) => {
      const said = await askJson<BehindBellView>('/bell', { id });
      return said?.ok ? said.answer : null;
    }
  });

  /** How many notices are new; the title of the page says it. */
  const news = $derived(bell.view?.unseen ?? data.frame.unseen);
  $effect(() => {
    document.title = countedTitle(document.title, news);
  });

  /** Pages announce their acts through this; the frame knows how to undo them. */
  setContext('done', ({ done, changeId, back }: Done) => {
    unsaved.forget();
    if (changeId !== undefined) announceDone(done, changeId, undo);
    else if (back) announceWith(done, 'Undo', () => void takeBack(back), 'success');
    else announce(done);
  });

  /** Date fields read and shade by these. */
  setContext(
    'days',
    new DaysSource(
      () => data.frame.clock.date,
      async (of) => {
        const said = await askJson<DaysView>('/days', of);
        return said?.ok ? said.answer : null;
      }
    )
  );

  /** What the person may do: components do not offer what would not open. */
  setContext('may', (deed: Deed) => data.frame.deeds.includes(deed));

  /** Sends JSON and gives the answer back; what went wrong is announced, and said to the sender too. */
  async function send(
    url: string,
    body: unknown,
    onPart?: (part: number) => void
  ): Promise<{ message: string; failed?: true }> {
    try {
      const said = await postJson<{ message: string }>(url, body, { onPart });
      if (said.ok) return said.answer;
      announce(said.message, 'error');
      return { message: said.message, failed: true };
    } catch {
      announce(NO_ANSWER, 'error');
      return { message: NO_ANSWER, failed: true };
    }
  }
  setContext('send', send);

  async function post(url: string, body: unknown): Promise<{ message: string } | null> {
    const answer = await send(url, body);
    return answer.failed ? null : answer;
  }

  async function readLine(line: string, answers: Record<string, number>) {
    const said = (await askJson<QuickView>('/quick-add', { line, answers }))!;
    return said.ok ? said.answer : { message: said.message };
  }

  async function addLine(line: string, answers: Record<string, number>): Promise<boolean> {
    const answer = await post('/quick-add', { line, answers, add: true });
    if (!answer) return false;
    const { message, changeId } = answer as { message: string; changeId: number };
    announceDone(message, changeId, undo);
    void invalidateAll();
    return true;
  }

  async function keepLine(text: string): Promise<boolean> {
    const answer = await post('/desk/acts', { act: 'keep', text });
    if (!answer) return false;
    const { message, changeId } = answer as { message: string; changeId: number };
    announceDone(message, changeId, undo);
    void invalidate('early-bell:tasks');
    return true;
  }

  async function undo(changeId: number) {
    forgetLatest(changeId);
    const answer = await whileUnderWay('Undoing…', post('/undo', { changeId }));
    const left = (answer as { left?: boolean } | null)?.left;
    if (answer && left)
      announceWith(answer.message, 'Tell the same readers…', () => void goto(`/changes/${changeId}`));
    else if (answer) announce(answer.message);
    // Reading anew would call off a way to another page that is under way: what is left behind may be gone.
    await navigating.complete;
    await invalidateAll();
  }

  async function takeBack({ url, body }: NonNullable<Done['back']>) {
    const answer = await post(url, body);
    if (answer) announce(answer.message);
    await navigating.complete;
    await invalidateAll();
  }

  async function move(to: ClockMove) {
    moving = true;
    const answer = await post('/clock', to);
    if (answer) announce(answer.message);
    await invalidateAll();
    moving = false;
  }

  function onkeydown(event: KeyboardEvent) {
    // What a part of the page has done with a key is not done again here.
    if (event.defaultPrevented) return;
    const typing =
      event.target instanceof HTMLElement &&
      event.target.closest(
        'input, textarea, select, [contenteditable], [role="dialog"], [role="alertdialog"]'
      );
    if ((event.ctrlKey || event.metaKey) && event.key === 'k') {
      event.preventDefault();
      sheet = 'go';
      return;
    }
    if (typing || event.altKey) return;
    if (event.key === '/' || event.key === '?') {
      event.preventDefault();
      sheet = event.key === '/' ? 'go' : 'keys';
    } else if ((event.ctrlKey || event.metaKey) && event.key === 'z' && undoLatest()) event.preventDefault();
    else if (event.key === 'k' && !event.ctrlKey && !event.metaKey) {
      event.preventDefault();
      sheet = 'line';
    } else if (event.key === 'n' && !event.ctrlKey && !event.metaKey) {
      event.preventDefault();
      void quickAdd?.show();
    }
  }

  // What others change is read anew as it is changed: not oftener than once in a while, nor on the way to another page.
  $effect(() => {
    bell.start();
    const source = new EventSource('/live');
    let timer: ReturnType<typeof setTimeout> | undefined;
    let ringing: ReturnType<typeof setTimeout> | undefined;
    // Several that come together ring once.
    source.addEventListener('notice', () => {
      ringing ??= setTimeout(() => {
        ringing = undefined;
        void bell.rang();
      }, 300);
    });
    source.addEventListener('change', () => {
      timer ??= setTimeout(() => {
        timer = undefined;
        if (navigating.to === null && !moving) void invalidate('early-bell:tasks');
      }, 700);
    });
    return () => {
      clearTimeout(timer);
      clearTimeout(ringing);
      source.close();
    };
  });

  // The clock and what hangs on it are read again while somebody looks; not while they are on their way to another page, since
  // reading anew would call that off.
  $effect(() => {
    const timer = setInterval(() => {
      const looking = document.visibilityState === 'visible' && navigating.to === null;
      if (looking && !moving) void invalidate('early-bell:clock');
    }, 20_000);
    return () => clearInterval(timer);
  });
</script>

<svelte:window {onkeydown} />

<a class="skip" href="#content">Skip to the content</a>
<div class="app" use:keepsFocus>
  <Rail path={page.url.pathname} postRoom={data.frame.postRoom} deeds={data.frame.deeds} />
  <div class="place">
    <TopBar
      frame={data.frame}
      {nextBell}
      {bell}
      {moving}
      onmove={move}
      onadd={() => quickAdd?.show()}
      onguide={guide ? () => (sheet = 'guide') : null}
    />
    {#if data.frame.sending}<SendingBand sending={data.frame.sending} />{/if}
    <main id="content" tabindex="-1" use:unsaved.watch use:stackedTables>{@render children()}</main>
  </div>
</div>
<QuickAdd bind:this={quickAdd} read={readLine} add={addLine} />
<Notices />
{#if sheet === 'go'}
  {#await import('$lib/ui/dialog/GoTo.svelte') then { default: GoTo }}
    <GoTo {places} {acts} {find} onclose={() => (sheet = null)} />
  {/await}
{:else if sheet === 'guide' && guide}
  {#await import('$lib/ui/guide/GuideSheet.svelte') then { default: GuideSheet }}
    <GuideSheet {guide} onclose={() => (sheet = null)} />
  {/await}
{:else if sheet === 'line'}
  {#await import('$lib/ui/desk/KeepLine.svelte') then { default: KeepLine }}
    <KeepLine keep={keepLine} onclose={() => (sheet = null)} />
  {/await}
{:else if sheet === 'keys'}
  {#await import('$lib/ui/dialog/Keys.svelte') then { default: Keys }}
    <Keys onclose={() => (sheet = null)} />
  {/await}
{/if}
{#if asked.now}
  {#await import('$lib/ui/dialog/Ask.svelte') then { default: Ask }}<Ask />{/await}
{/if}

<style>
  .app {
    display: grid;
    grid-template-columns: 176px minmax(0, 1fr);
    min-height: 100vh;
  }
  main {
    padding: 18px 22px 48px;
  }
  main:focus {
    outline: none;
  }
  .skip {
    position: absolute;
    left: 8px;
    top: -60px;
    z-index: 60;
    padding: 8px 14px;
    border-radius: 7px;
    background: var(--brass-deep);
    color: var(--on-deep);
  }
  .skip:focus {
    top: 8px;
  }
  @media print {
    .app {
      display: block;
    }
    main {
      padding: 0;
    }
    .skip {
      display: none;
    }
  }
  @media (max-width: 900px) {
    .app {
      grid-template-columns: minmax(0, 1fr);
      grid-template-rows: auto 1fr;
    }
    main {
      padding-inline: 16px;
    }
  }
</style>
