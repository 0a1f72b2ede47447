<!-- The lines that a part takes, or that no part takes, with the choice of entries by hand. -->
<script lang="ts">
  import { plural, shortDate } from '../figures';
  import Money from '../ui/Money.svelte';
  import Tabs from '../ui/Tabs.svelte';
  import { getMoving } from './moving.svelte';

  const moving = getMoving();
  let view = $state<'taken' | 'left'>('left');
  const preview = $derived(moving.preview);
  const shown = $derived(view === 'left' ? preview?.left : preview?.parts[moving.at]);
  const chosen = $derived(new Set(moving.parts[moving.at]?.which.entries));
  const tabs = $derived([
    {
      key: 'taken' as const,
      title: `Part ${moving.at + 1} takes`,
      number: preview?.parts[moving.at]?.lines ?? 0,
    },
    { key: 'left' as const, title: 'Stay where they are', number: preview?.left.lines ?? 0 },
  ]);
</script>

<Tabs {tabs} bind:view>
  {#if shown?.sample.length}
    <table class="ledger">
      <thead>
        <tr>
          <th class="w-8"><span class="sr-only">Choose</span></th><th class="w-20">Date</th>
          <th class="w-20">Entry</th><th>Payee</th><th>Memo</th><th>Dimensions</th>
          <th class="num amount">Amount</th>
        </tr>
      </thead>
      <tbody>
        {#each shown.sample as line (line.id)}
          <tr>
            <td>
              <input
                type="checkbox"
                class="checkbox checkbox-xs"
                aria-label="Choose entry {line.entry} for part {moving.at + 1}"
                checked={chosen.has(line.entry)}
                onchange={() => moving.choose(line.entry)}
              />
            </td>
            <td class="text-soft whitespace-nowrap"
              >{shortDate(line.date, moving.books.chart?.year_end)}</td
            >
            <td class="text-soft">{line.entry}</td>
            <td>{line.payee}</td>
            <td class="text-soft">{line.memo}{line.cleared ? ' · reconciled' : ''}</td>
            <td class="hint">{line.dimensions.replaceAll('=', ' ')}</td>
            <td class="num"><Money amount={line.amount} /></td>
          </tr>
        {/each}
      </tbody>
    </table>
    {#if shown.lines > shown.sample.length}
      <p class="hint mt-2">
        The latest {shown.sample.length} of {plural(shown.lines, 'line')}; say more of them above to
        see others.
      </p>
    {/if}
  {:else if shown}
    <p class="text-soft py-3">
      {view === 'left' ? 'No line stays behind.' : 'No line fits this part yet.'}
    </p>
  {/if}
</Tabs>
