<script lang="ts">
  import type { ChannelPartProps } from './part-props.ts';

  /** What stands behind the bell needs no setting. */
  let { test }: ChannelPartProps = $props();
</script>

<h2>In the app</h2>
<p class="now">
  Shown at the bell in the top bar, at once on open pages.
  {@render test('Send me a test notice')}
</p>
