<!-- What a statement is, as one sentence of which each part can be chosen. -->
<script lang="ts">
  import type { Schemas } from '../api/client';
  import DayField from '../ui/DayField.svelte';
  import { FORMS, SPANS, readings, type StatementsQuery } from './query';

  let {
    asked,
    until,
    reading,
    planned,
    choose,
  }: {
    asked: StatementsQuery;
    /** The last day that is shown. */
    until: string;
    reading: Schemas['Reading'];
    /** Whether there is a plan to read it by. */
    planned: boolean;
    choose: (asked: StatementsQuery) => void;
  } = $props();

  const besides: [StatementsQuery['beside'], string][] = $derived([
    ['before', asked.span === 'year' ? 'whole years before' : 'before'],
    ['earlier_years', 'to the same day of earlier years'],
  ]);
  const againsts: [string, string][] = $derived([
    ['', 'on its own'],
    ...readings(planned)
      .filter(([key]) => key !== reading)
      .map(([key, words]): [string, string] => [key, `beside it ${words}`]),
  ]);
  const accounts: [string, string][] = [
    ['', 'without zeros'],
    ['zeros', 'with zeros'],
  ];
  const units: [string, string][] = [
    ['', 'in full'],
    ['thousands', 'in thousands'],
  ];
  const counts: [number, string][] = [1, 2, 3, 4, 5, 6, 7, 8].map((n) => [
    n,
    n === 1 ? 'none' : String(n - 1),
  ]);
</script>

{#snippet part<T extends string | number>(
  label: string,
  value: T,
  list: [T, string][],
  to: (value: T) => Partial<StatementsQuery>,
)}
  <select
    class="choice"
    aria-label={label}
    {value}
    onchange={(event) => {
      const found = list.find(([key]) => String(key) === event.currentTarget.value);
      if (found) choose({ ...asked, ...to(found[0]) });
    }}
  >
    {#each list as [key, words] (key)}<option value={key}>{words}</option>{/each}
  </select>
{/snippet}

<p class="flex flex-wrap items-baseline gap-x-1.5 gap-y-1">
  For
  {@render part('Span', asked.span, SPANS, (span) => ({ span }))}
  to
  <DayField
    class="choice"
    label="Last day"
    value={until}
    choose={(until) => choose({ ...asked, until })}
  />
  {#if asked.kind === 'trial_balance'}
    {@render part('Form', asked.form, FORMS, (form) => ({ form }))}
  {/if}
  {#if asked.kind !== 'trial_balance' || asked.form === 'balances'}
    beside
    {@render part('How many beside it', asked.count, counts, (count) => ({ count }))}
    {#if asked.count > 1}
      {@render part('Compared with', asked.beside, besides, (beside) => ({ beside }))}
    {/if}
  {/if}
  {@render part('Reading', reading, readings(planned), (reading) => ({
    reading,
    against: asked.against === reading ? null : asked.against,
  }))}
  {#if asked.kind === 'trial_balance'}
    {@render part('Accounts', asked.zeros ? 'zeros' : '', accounts, (which) => ({
      zeros: which !== '',
    }))}
  {:else}
    {@render part('Reading beside it', asked.against ?? '', againsts, (against) => ({
      against: readings(planned).find(([key]) => key === against)?.[0] ?? null,
    }))}
    {@render part('Figures', asked.thousands ? 'thousands' : '', units, (unit) => ({
      thousands: unit !== '',
    }))}
  {/if}
</p>

<style>
  p :global(.choice) {
    background: transparent;
    border: 0;
    border-bottom: 2px solid var(--color-primary);
    color: var(--color-primary);
    font-weight: 600;
    padding: 0 2px 1px;
    field-sizing: content;
    cursor: pointer;
  }
  p :global(.choice option) {
    background: var(--color-base-100);
    color: var(--color-base-content);
    font-weight: 400;
  }
</style>
