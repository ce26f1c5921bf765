<script lang="ts">
  // The list stands in the layout, so that a task can open beside it; alone it is all there is.
</script>

<svelte:head><title>Tasks · Early Bell</title></svelte:head>
