<!-- A folded sheet on the desk: what one does before one is in, and what the house is for. -->
<script lang="ts">
  import type { Snippet } from 'svelte';

  let { title, about, children }: { title: string; about: string; children: Snippet } = $props();
</script>

<svelte:head><title>{title} · Zero Fold</title></svelte:head>
<main class="grid min-h-full place-items-center p-6">
  <div class="paper folded relative w-full max-w-3xl overflow-hidden md:grid md:grid-cols-2">
    <div class="p-9">
      <h1 class="text-3xl">{title}</h1>
      <p class="text-soft mt-2 mb-7 leading-relaxed">{about}</p>
      {@render children()}
    </div>
    <div class="after hidden flex-col justify-center gap-5 p-9 md:flex" aria-hidden="true">
      <p class="text-soft flex justify-between">
        <span>5010 Locomotive coal</span><span>1,842 lines</span>
      </p>
      <p class="text-soft flex justify-between">
        <span>5012 Coal &amp; firewood</span><span>211 lines</span>
      </p>
      <p class="text-warning flex justify-between font-semibold">
        <span>↳ into 5110 Locomotive coal</span><span>2,053 lines</span>
      </p>
      <p class="stitch mt-2 flex items-baseline justify-between pt-4">
        <span class="hint">difference</span>
        <span class="text-success font-serif text-4xl font-semibold">0.00</span>
      </p>
    </div>
  </div>
</main>

<style>
  .after {
    background:
      var(--fold) left / 26px no-repeat,
      var(--color-base-200);
  }
</style>
