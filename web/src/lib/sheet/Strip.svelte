<!-- The activity strip: lines by quarter over six years, against the row's own busiest quarter. -->
<script lang="ts">
  let { strip, width = 74 }: { strip: string; width?: number } = $props();

  const bars = $derived([...strip].map(Number));
  const step = $derived(width / Math.max(bars.length, 1));
  const busy = $derived(bars.filter((bar) => bar > 0).length);
</script>

{#if strip}
  <svg {width} height="17" role="img" aria-label="{busy} of {bars.length} quarters with lines">
    <line x1="0" x2={width} y1="16.5" y2="16.5" class="stroke-rule-strong" stroke-dasharray="1 2" />
    {#each bars as bar, n (n)}
      {#if bar > 0}
        <rect
          x={n * step}
          y={16 - bar * 1.7}
          width={step - 0.9}
          height={bar * 1.7}
          class="fill-primary opacity-60"
        />
      {/if}
    {/each}
  </svg>
{/if}
