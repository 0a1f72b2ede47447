<!-- What opens beside its summary, and closes when one chooses, presses Escape or goes on elsewhere. -->
<script lang="ts">
  import type { Snippet } from 'svelte';

  let {
    summary,
    children,
    side = '',
    width = 'w-64',
    summaryClass = '',
    label,
  }: {
    summary: Snippet;
    /** Gets a function that closes it. */
    children: Snippet<[() => void]>;
    /** Where it opens, in the words of the component library. */
    side?: string;
    width?: string;
    summaryClass?: string;
    label?: string;
  } = $props();

  let details: HTMLDetailsElement;
  // The element itself knows whether it is open; its event tells of that only later.
  const close = () => (details.open = false);

  function elsewhere(event: Event) {
    if (event.target instanceof Node && !details.contains(event.target)) close();
  }
</script>

<svelte:window
  onpointerdown={elsewhere}
  onfocusin={elsewhere}
  onkeydown={(event) => event.key === 'Escape' && close()}
/>
<details bind:this={details} class={['dropdown', side]} data-keeps-focus>
  <summary class={['cursor-pointer list-none', summaryClass]} aria-label={label}
    >{@render summary()}</summary
  >
  <div class={['dropdown-content paper border-rule-strong z-30 my-1 border p-2', width]}>
    {@render children(close)}
  </div>
</details>
