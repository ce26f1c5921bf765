<script lang="ts">
  import type { FrameView } from '$lib/view/frame.ts';

  /** The person who is signed in. */
  let { person }: { person: FrameView['person'] } = $props();

  /** What opens under it is loaded when it is first pressed: most pages are read without it. */
  const load = () => import('./PersonList.svelte');
  let list = $state<Awaited<ReturnType<typeof load>>['default']>();
</script>

{#if list}
  {@const List = list}
  <List {person} />
{:else}
  <button
    class="initials"
    title={person.name}
    aria-haspopup="menu"
    aria-label="{person.initials}, {person.name}: your page, sign out"
    onclick={async () => (list = (await load()).default)}>{person.initials}</button
  >
{/if}
