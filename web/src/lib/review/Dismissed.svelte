<!-- Remarks that somebody has said are right in these books, and why. -->
<script lang="ts">
  import { instant } from '../figures';
  import type { Review } from './settled';

  let {
    dismissed,
    forget,
  }: { dismissed: Review['dismissed']; forget: (id: number) => Promise<void> } = $props();
</script>

<ul>
  {#each dismissed as one (one.id)}
    <li class="border-rule flex items-baseline gap-4 border-b py-3">
      <span class="grow">
        {one.about ?? 'All of this kind'}
        <span class="hint first-letter:uppercase">{one.title}</span>
        <span class="block">“{one.reason}”</span>
        <span class="hint">{one.person}, {instant(one.at)}</span>
      </span>
      <button class="btn btn-xs btn-quiet" onclick={() => forget(one.id)}>Remark on it again</button
      >
    </li>
  {:else}
    <li class="text-soft py-4">Nothing was dismissed yet.</li>
  {/each}
</ul>
