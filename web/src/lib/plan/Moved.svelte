<!-- The parts of histories that move, with what they add up to. -->
<script lang="ts">
  import type { Schemas } from '../api/client';
  import { count, longDate, plural } from '../figures';
  import Money from '../ui/Money.svelte';

  let {
    moved,
    unstage,
    books,
  }: {
    moved: Schemas['MovedView'][];
    unstage?: (account: number) => void;
    /** The books, when a part can still be changed. */
    books?: number;
  } = $props();
</script>

{#if moved.length}
  <h3 class="mt-5 mb-1 text-base">
    History moved <span class="hint font-sans">{plural(moved.length, 'part')}</span>
  </h3>
  <table class="ledger">
    <thead>
      <tr>
        <th>From</th><th>To</th><th>Which lines</th><th class="num">Lines</th><th class="num amount"
          >Sum</th
        >
        {#if unstage}<th></th>{/if}
      </tr>
    </thead>
    <tbody>
      {#each moved as part, n (n)}
        <tr>
          <td>
            {#if books}<a class="link" href="/books/{books}/move/{part.from}">{part.from_label}</a>
            {:else}{part.from_label}{/if}
          </td>
          <td class="text-warning font-semibold">{part.to_label}</td>
          <td class="text-soft">
            {part.which}
            <span class="hint block">
              {part.years.map((year) => `${count(year.lines)} to ${longDate(year.end)}`).join(', ')}
            </span>
          </td>
          <td class="num text-soft">{count(part.lines)}</td>
          <td class="num"><Money amount={part.net} /></td>
          {#if unstage}
            <td class="num">
              <button class="btn btn-xs btn-quiet" onclick={() => unstage(part.from)}>Undo</button>
            </td>
          {/if}
        </tr>
      {/each}
    </tbody>
  </table>
{/if}
