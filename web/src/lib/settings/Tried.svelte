<!-- What a change of a setting would do to the figures, before it is made. -->
<script lang="ts">
  import type { Schemas } from '../api/client';
  import { longDate, magnitude, plural } from '../figures';

  let { tried }: { tried: Schemas['SettingPreview'] } = $props();
  const years = $derived([
    ['as shown now', tried.year_before],
    ['as it would be shown', tried.year_after],
  ] as const);
</script>

{#if tried.summary === null || tried.summary === undefined}
  <p class="text-soft">It is so already.</p>
{:else}
  <table class="ledger mb-2">
    <thead
      ><tr><th>The latest year</th><th>From</th><th>Up to</th><th class="num">Earned</th></tr
      ></thead
    >
    <tbody>
      {#each years as [words, year] (words)}
        <tr>
          <td>{words}</td>
          {#if year}
            <td>{longDate(year.first)}</td>
            <td>{longDate(year.last)}</td>
            <td class="num">{year.net.startsWith('-') ? '−' : ''}{magnitude(year.net)}</td>
          {:else}<td colspan="3" class="text-soft">no lines yet</td>{/if}
        </tr>
      {/each}
    </tbody>
  </table>
  <p>
    {#if tried.accounts}<b class="text-warning font-semibold">{plural(tried.accounts, 'account')}</b
      > would show another balance. No line changes.{:else}No account would show another balance.{/if}
  </p>
{/if}
