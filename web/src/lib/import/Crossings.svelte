<!-- What each row of a crosswalk will do, before anything of it is staged. -->
<script lang="ts">
  import type { Schemas } from '../api/client';
  import { placeWords } from './place';

  let { crossings }: { crossings: Schemas['CrossingView'][] } = $props();
</script>

<h2 class="mt-6 mb-2 text-lg">What each row will do</h2>
<table class="ledger max-w-3xl">
  <thead><tr><th class="w-16">Row</th><th>Account</th><th>What happens</th></tr></thead>
  <tbody>
    {#each crossings as { place, account, does }, n (n)}
      <tr>
        <td class="text-soft">{placeWords(place)}</td>
        <td>{account}</td>
        <td class:text-soft={does === 'stays as it is'}>{does}</td>
      </tr>
    {/each}
  </tbody>
</table>
