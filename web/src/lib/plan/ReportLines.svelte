<!-- The lines of reports that follow a renumbering, with what they add up today and after. -->
<script lang="ts">
  import type { Schemas } from '../api/client';
  import { plural } from '../figures';

  let { lines }: { lines: Schemas['RewrittenView'][] } = $props();
</script>

{#if lines.length}
  <h3 class="mt-5 mb-1 text-base">
    Report lines that follow <span class="hint font-sans">{plural(lines.length, 'line')}</span>
  </h3>
  <table class="ledger">
    <thead>
      <tr><th>Report line</th><th>Adds up today</th><th>After, for the same accounts</th></tr>
    </thead>
    <tbody>
      {#each lines as { label, today, after } (label + today)}
        <tr>
          <td>{label}</td>
          <td class="text-soft">{today}</td>
          <td class="text-warning font-semibold">{after}</td>
        </tr>
      {/each}
    </tbody>
  </table>
{/if}
