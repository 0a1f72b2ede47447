<!-- What a rule proposes, old beside new, and above it what has to be known of it. -->
<script lang="ts">
  import { count, plural } from '../figures';
  import { getNumbering } from './numbering.svelte';
  import FindingText from '../ui/FindingText.svelte';

  let { show }: { show: (account: number) => void } = $props();
  const numbering = getNumbering();
  const books = numbering.books;
  const SHOWN = 200;
  const FINDINGS = 6;
  let shown = $state(SHOWN);
  const preview = $derived(numbering.preview);
  const outOfOrder = $derived(new Set(preview?.out_of_order));
  const isNew = (code: string, from: string) => code !== from;
</script>

{#if preview}
  {#each preview.findings.slice(0, FINDINGS) as finding (finding.key)}
    <div class="mb-2">
      <FindingText {finding}>
        {#each finding.remedies as { label, wanted } (label)}
          {#if wanted && 'stage' in wanted && wanted.stage.field === 'code'}
            <span class="hint">{wanted.stage.value} is free.</span>
          {/if}
        {/each}
      </FindingText>
    </div>
  {/each}
  {#if preview.findings.length > FINDINGS}
    <p class="hint mb-2">and {count(preview.findings.length - FINDINGS)} more</p>
  {/if}
  {#if preview.out_of_order.length}
    <p class="mb-2 leading-snug">
      <b class="text-warning">Order changes.</b>
      {plural(preview.out_of_order.length, 'account')} would stand between others on the statements than
      today;
      {preview.out_of_order.length === 1 ? 'it is' : 'they are'} marked below.
    </p>
  {/if}
  {#if preview.rewritten.length}
    <details class="mb-2">
      <summary class="cursor-pointer"
        ><b class="font-semibold">{plural(preview.rewritten.length, 'sum')}</b> will add up other codes,
        for the same accounts.</summary
      >
      <ul class="mt-1">
        {#each preview.rewritten as sum (sum.label)}
          <li class="border-rule border-b py-1">
            {sum.label}: <span class="text-soft">{sum.today}</span> becomes
            <b class="text-warning font-semibold">{sum.after}</b>
          </li>
        {/each}
      </ul>
    </details>
  {/if}
  {#each preview.refused as refused (refused.account)}
    <p class="mb-1 leading-snug">
      <b class="text-error">No code</b> for {books.label(refused.account)}: {refused.reason}.
    </p>
  {/each}
  {#if preview.codes.length}
    <table class="ledger mt-2">
      <tbody>
        {#each preview.codes.slice(0, shown) as proposal (proposal.account)}
          {@const changes = isNew(proposal.to, proposal.from)}
          <tr>
            <td class="text-soft w-20">
              <button
                class="cursor-pointer"
                title="Show the row"
                onclick={() => show(proposal.account)}>{proposal.from}</button
              >
            </td>
            <td class="text-soft w-8">→</td>
            <td class={['w-24', changes ? 'text-warning font-semibold' : 'text-soft']}
              >{proposal.to}</td
            >
            <td
              >{proposal.name ??
                books.byId.get(proposal.account)?.name ??
                books.label(proposal.account)}</td
            >
            <td class="hint num">
              {[proposal.note, outOfOrder.has(proposal.account) && 'out of order']
                .filter(Boolean)
                .join(' · ')}
            </td>
          </tr>
        {/each}
      </tbody>
    </table>
    {#if preview.codes.length > shown}
      <button class="btn btn-sm btn-quiet mt-2" onclick={() => (shown += 1000)}
        >Show more of {count(preview.codes.length)}</button
      >
    {/if}
  {:else if numbering.said}
    <p class="text-soft py-3">The rule is for no row of the chart.</p>
  {:else}
    <p class="text-soft py-3">
      Fill in the blanks of the rule, and every old code is shown beside its new one before anything
      is staged. Drag over the upper line of the map to choose rows, click on the lower one to
      choose where to number them.
    </p>
  {/if}
{/if}
