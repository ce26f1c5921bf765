<script lang="ts">
  import { many } from '$lib/core/many.ts';
  import type { Send } from '$lib/ui/form/send.ts';
  import Upload from '@lucide/svelte/icons/upload';
  import { afterNavigate, goto, invalidate } from '$app/navigation';
  import { page } from '$app/state';
  import { getContext, type Snippet } from 'svelte';
  import type { Deed } from '$lib/core/access/deeds.ts';
  import type { Done } from '$lib/ui/form/submit.ts';
  import HandRing from '$lib/ui/rule/HandRing.svelte';
  import { ringMany } from '$lib/ui/rule/ring-many.ts';
  import type { BulkPreviewView } from '$lib/ui/task/BulkBar.svelte';
  import ListFilters from '$lib/ui/task/ListFilters.svelte';
  import Shapes from '$lib/ui/task/Shapes.svelte';
  import SavedLists from '$lib/ui/task/SavedLists.svelte';
  import TaskTable from '$lib/ui/task/TaskTable.svelte';
  import type { CellEdit } from '$lib/ui/task/cell-edit.ts';
  import { NARROW_COLUMNS, columnsOf } from '$lib/view/task-columns.ts';
  import { ListedRows } from './listed-rows.svelte.ts';
  import type { LayoutData } from './$types';

  let { data, children }: { data: LayoutData; children: Snippet } = $props();
  const may = getContext<(deed: Deed) => boolean>('may');
  const done = getContext<(done: Done) => void>('done');
  const send = getContext<Send>('send');

  /** From so many chosen tasks on an act on them may take long. */
  const MANY_CHOSEN = 25;
  let chosen: ReadonlySet<number> = $state.raw(new Set());
  let all = $state(false);

  const openId = $derived(page.params.id ? Number(page.params.id) : null);
  const columns = $derived(openId === null ? columnsOf(data.query.columns) : [...NARROW_COLUMNS]);
  const search = $derived(page.url.search);

  const listed = new ListedRows(
    () => data.page,
    () => page.url.search,
    () => {
      chosen = new Set();
      all = false;
    }
  );
  const rows = $derived(listed.rows);

  /** The address's own parameters, to be changed for another address. */
  const parametersOf = (text: string) => new URLSearchParams(text);
  const parametersNow = () => parametersOf(page.url.search);

  // Who picks a second filter before the first has arrived means both: the next address is made
  // from the one under way.
  let underWay: string | null = null;
  afterNavigate(() => (underWay = null));

  function change(changes: Record<string, string>) {
    const parameters = parametersOf(underWay ?? page.url.search);
    for (const [key, value] of Object.entries(changes)) {
      if (value === '') parameters.delete(key);
      else parameters.set(key, value);
    }
    const text = parameters.toString();
    underWay = text;
    void goto(`${page.url.pathname}${text ? `?${text}` : ''}`, { keepFocus: true, noScroll: true });
  }

  const withParameter = (key: string, value: string | null) => {
    const parameters = parametersNow();
    if (value === null) parameters.delete(key);
    else parameters.set(key, value);
    return `${page.url.pathname}?${parameters}`;
  };

  async function edit({ id, patch, base }: CellEdit) {
    const answer = await send<{ message: string; changeId: number; lost: boolean }>(`/tasks/${id}/field`, {
      patch,
      base
    });
    if (!('failed' in answer)) done({ done: answer.message, changeId: answer.changeId });
    await invalidate('early-bell:tasks');
  }

  const target = () => ({ ids: all ? null : [...chosen], query: page.url.search });

  async function preview(changeOf: unknown, onPart: (part: number) => void) {
    return send<BulkPreviewView>('/tasks/bulk', { ...target(), change: changeOf, preview: true }, onPart);
  }

  async function apply(changeOf: unknown, stamp: string | null): Promise<boolean> {
    const answer = await send<{ message: string; changeId: number }>('/tasks/bulk', {
      ...target(),
      change: changeOf,
      stamp
    });
    if ('failed' in answer) return false;
    done({ done: answer.message, changeId: answer.changeId });
    chosen = new Set();
    all = false;
    await invalidate('early-bell:tasks');
    return true;
  }

  // The thread that looks at acts on many has begun by the time it is asked.
  const choosesMany = $derived(all || chosen.size >= MANY_CHOSEN);
  $effect(() => {
    if (choosesMany) void fetch('/tasks/bulk/ready', { method: 'POST' }).catch(() => {});
  });

  const hand = ringMany(send, target, done, async () => {
    chosen = new Set();
    all = false;
    await invalidate('early-bell:tasks');
  });
</script>

<div class="beside" class:open={openId !== null}>
  <div class="list">
    <div class="top">
      <h1>Tasks</h1>
      <span class="quiet">{many(data.total, 'task')}</span>
      <Shapes
        shape={data.query.shape}
        onchange={(shape) => change({ shape: shape === 'rows' ? '' : shape, month: '', week: '' })}
      />
      <SavedLists lists={data.saved} query={search} tower={data.tower} ondone={done} />
      <span class="acts no-print">
        {#if may('bring tasks in') && openId === null}
          <a class="button" href="/tasks/import"><Upload size={16} strokeWidth={1.75} />Import CSV</a>
        {/if}
      </span>
    </div>
    <ListFilters
      query={data.query}
      choices={data.choices}
      me={data.me}
      narrow={openId !== null}
      onchange={change}
    />
    {#if chosen.size > 0}
      {#await import('$lib/ui/task/BulkBar.svelte') then { default: BulkBar }}<BulkBar
          count={chosen.size}
          total={data.total}
          {all}
          choices={data.choices}
          onall={() => (all = true)}
          onclear={() => {
            chosen = new Set();
            all = false;
          }}
          onpreview={preview}
          onapply={apply}
        />{/await}
      {#if data.hand.length > 0}<HandRing
          buttons={data.hand}
          onpreview={hand.preview}
          onring={hand.ring}
        />{/if}
    {/if}
    {#if data.total === 0 && data.query.shape === 'rows'}
      <p class="empty">
        {#if data.any}No task matches. <a href="/tasks?show=all">Clear the filters</a>.
        {:else}There are no tasks yet.
          {#if may('bring tasks in')}<a href="/tasks/import">Import a CSV file</a>, or{/if}
          <a href="/tasks/new">add one</a>.{/if}
      </p>
    {:else if data.columns && data.TaskColumns}
      <data.TaskColumns view={data.columns} {openId} hrefOf={(id) => `/tasks/${id}${search}`} onedit={edit} />
    {:else if data.days && data.TaskDays}
      <data.TaskDays
        view={data.days}
        week={page.url.searchParams.get('week')}
        {openId}
        hrefOf={(id) => `/tasks/${id}${search}`}
        monthHref={(month) => withParameter('month', month).replace(/&?week=[\d-]*/, '')}
        weekHref={(date) => withParameter('week', date)}
        onedit={edit}
      />
    {:else}
      <TaskTable
        {rows}
        groups={data.groups}
        {columns}
        narrow={openId !== null}
        choices={data.choices}
        sort={data.query.sort}
        down={data.query.down}
        more={listed.next !== null}
        {openId}
        chosen={all ? new Set(rows.map(({ id }) => id)) : chosen}
        hrefOf={(id) => `/tasks/${id}${search}`}
        onmore={() => void listed.more()}
        onopen={(id, act) =>
          goto(`/tasks/${id}${search}${act ? `#do-${act}` : ''}`, { noScroll: true, keepFocus: true })}
        onsort={(key) =>
          change({ sort: key, order: data.query.sort === key && !data.query.down ? 'down' : '' })}
        onchoose={(ids) => {
          chosen = new Set(ids);
          all = false;
        }}
        onedit={edit}
      />
    {/if}
  </div>
  {@render children()}
</div>

<style>
  .beside.open {
    display: grid;
    grid-template-columns: minmax(360px, 0.85fr) minmax(0, 1.15fr);
    gap: 26px;
    align-items: start;
  }
  .list {
    min-width: 0;
  }
  .top {
    display: flex;
    flex-wrap: wrap;
    align-items: baseline;
    gap: 6px 14px;
    margin-bottom: 10px;
  }
  .acts {
    margin-left: auto;
    display: flex;
    gap: 8px;
  }
  .empty {
    padding: 16px 0;
  }
  @media (max-width: 1000px) {
    .beside.open {
      grid-template-columns: minmax(0, 1fr);
    }
    .beside.open .list {
      display: none;
    }
  }
</style>
