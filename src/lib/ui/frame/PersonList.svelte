<script lang="ts">
  import { Menu, Portal } from '@skeletonlabs/skeleton-svelte';
  import { goto } from '$app/navigation';
  import type { FrameView } from '$lib/view/frame.ts';
  import { recent } from '../dialog/recent.ts';

  /** What opens under the initials of whoever is signed in: their page, and the way out. It is there once it is asked for, and open then. */
  let { person }: { person: FrameView['person'] } = $props();
  let form: HTMLFormElement;
  let open = $state(true);

  function chosen(value: string) {
    if (value === 'page') return void goto(`/people/${person.id}`);
    if (value === 'told') return void goto('/told');
    recent.forget();
    form.requestSubmit();
  }
</script>

<form bind:this={form} method="POST" action="/sign-out"></form>
<Menu
  {open}
  onOpenChange={(details) => (open = details.open)}
  onSelect={({ value }) => chosen(value)}
  positioning={{ placement: 'bottom-end' }}
>
  <Menu.Trigger>
    {#snippet element(attributes)}
      <button
        {...attributes}
        class="initials"
        title={person.name}
        aria-label="{person.initials}, {person.name}: your page, sign out">{person.initials}</button
      >
    {/snippet}
  </Menu.Trigger>
  <Portal>
    <Menu.Positioner class="z-30">
      <Menu.Content>
        {#snippet element(attributes)}
          <div {...attributes} class="sheet menu">
            <Menu.Item value="told" class="item">What I am told</Menu.Item>
            <Menu.Item value="page" class="item">Your page</Menu.Item>
            <Menu.Item value="out" class="item">Sign out {person.name}</Menu.Item>
          </div>
        {/snippet}
      </Menu.Content>
    </Menu.Positioner>
  </Portal>
</Menu>

<style>
  .menu {
    padding: 6px 0;
    white-space: nowrap;
    box-shadow: 0 8px 24px rgb(0 0 0 / 12%);
    outline: none;
  }
  .menu :global(.item) {
    padding: 6px 16px;
    cursor: pointer;
  }
  .menu :global(.item[data-highlighted]) {
    background: var(--brass-wash);
  }
</style>
