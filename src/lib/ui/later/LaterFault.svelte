<!-- What should have come after its page did not: says so, and asks for it again. -->
<script lang="ts">
  import { invalidateAll } from '$app/navigation';

  interface Props {
    /** What could not be worked out: “The coming bells”. */
    what: string;
  }
  let { what }: Props = $props();
</script>

<p class="fault" role="alert">
  {what} could not be computed.
  <button type="button" class="button" onclick={() => void invalidateAll()}>Try again</button>
</p>
