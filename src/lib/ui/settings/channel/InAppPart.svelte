<script lang="ts">
  import type { ChannelPartProps } from './part-props.ts';

  /** What stands behind the bell needs no setting. */
  let { test }: ChannelPartProps = $props();
</script>

<h2>In the app</h2>
<p class="now">
  Stands behind the bell at the top; open pages hear at once.
  {@render test('Say something to me here')}
</p>
