<script lang="ts">
  /** The product's mark: a bell under the line of first light. */
  let { size = 22 }: { size?: number } = $props();
</script>

<svg width={size} height={size} viewBox="-11 -11 22 22" aria-hidden="true">
  <path d="M-10 6A10 10 0 0 1 10 6" fill="none" stroke="var(--brass)" stroke-width="1.6" />
  <g transform="translate(0 1) scale(1.35)">
    <path
      d="M-4.6 3.2C-3.2 1.6-3.4-.4-3.1-1.6-2.6-3.8-1.3-4.8 0-4.8S2.6-3.8 3.1-1.6C3.4-.4 3.2 1.6 4.6 3.2ZM-1.4 4.6A1.5 1.3 0 0 0 1.4 4.6Z"
      fill="var(--ink)"
    />
  </g>
</svg>
