<!-- Accounts that may become one, side by side: what differs, what each adds up to, and what is kept. -->
<script lang="ts">
  import type { MergingState } from './merging.svelte';
  import { count, longDate, plural } from '../figures';
  import Strip from '../sheet/Strip.svelte';
  import Figure from '../journal/Figure.svelte';
  import Money from '../ui/Money.svelte';
  import FindingText from '../ui/FindingText.svelte';
  import Problem from '../ui/Problem.svelte';

  let {
    merging,
    show,
    dismiss,
  }: {
    merging: MergingState;
    show: (account: number) => void;
    /** Says that they are not the same; missing where nobody said that they are. */
    dismiss?: (reason: string) => Promise<void>;
  } = $props();
  const books = $derived(merging.books);
  const beside = $derived(merging.beside);
  const accounts = $derived(beside?.accounts ?? []);
  const findings = $derived(
    merging.isStaged ? merging.merged.flatMap((account) => books.findings.get(account) ?? []) : [],
  );
  let saying = $state(false);
  let months = $state(false);
  let reason = $state('');
  const row = (account: number) => books.byId.get(account);
  const gone = (account: number) => merging.out.has(account);
  const lines = $derived(
    accounts.filter(({ account }) => !gone(account)).reduce((sum, one) => sum + one.lines, 0),
  );
  const uses = $derived(
    accounts.filter(({ account }) => !gone(account)).flatMap((one) => one.uses),
  );

  async function tellApart(event: SubmitEvent) {
    event.preventDefault();
    await dismiss?.(reason);
    [saying, reason] = [false, ''];
  }
</script>

<Problem of={merging.asking} class="mb-3" />
<Problem of={merging.staging} class="mb-3" />
{#if beside}
  <div class="overflow-x-auto">
    <table class="beside">
      <thead>
        <tr>
          <th class="what"></th>
          {#each accounts as { account } (account)}
            {@const keeps = account === merging.survivor}
            <th class={[keeps && 'keeps', gone(account) && 'out']} scope="col">
              <span class="flex items-center gap-2">
                <button
                  class="cursor-pointer font-serif text-lg font-semibold"
                  title="Show the row"
                  onclick={() => show(account)}>{row(account)?.code}</button
                >
                {#if keeps}<b class="mark">stays</b>{/if}
              </span>
              <span class="hint block font-normal">{row(account)?.name}</span>
            </th>
          {/each}
          <th class="together" scope="col"><span class="font-serif text-lg">Together</span></th>
        </tr>
      </thead>
      <tbody>
        <tr>
          <th class="what" scope="row">Which one stays</th>
          {#each accounts as { account } (account)}
            <td class={[account === merging.survivor && 'keeps', gone(account) && 'out']}>
              <label class="flex cursor-pointer items-center gap-2">
                <input
                  type="radio"
                  class="radio radio-xs radio-primary"
                  name="survivor"
                  aria-label="Keep {row(account)?.code} {row(account)?.name}"
                  checked={account === merging.survivor}
                  onchange={() => merging.keep(account)}
                />
                {#if account === beside.survivor && beside.reason}<span class="hint"
                    >suggested: {beside.reason}</span
                  >{/if}
              </label>
            </td>
          {/each}
          <td class="together"></td>
        </tr>
        {#each beside.settings.filter((s) => s.can_be_kept || s.words.some((w) => w !== 'nothing')) as setting (setting.field)}
          <tr>
            <th class="what first-letter:uppercase" scope="row">{setting.title}</th>
            {#each accounts as { account }, n (account)}
              {@const source =
                merging.source(setting.field) === account &&
                !(setting.field === 'name' && merging.name)}
              <td class={[account === merging.survivor && 'keeps', gone(account) && 'out']}>
                {#if setting.can_be_kept && setting.differs}
                  <button
                    class={['cell', source ? 'text-warning font-semibold' : 'differs']}
                    aria-pressed={source}
                    title="Keep this {setting.title}"
                    disabled={gone(account)}
                    onclick={() => merging.take(setting.field, account)}
                    >{setting.words[n]}{source ? ' ✓' : ''}</button
                  >
                {:else}
                  <span class={setting.differs ? 'text-error font-semibold' : ''}
                    >{setting.words[n]}</span
                  >
                {/if}
              </td>
            {/each}
            <td class="together font-semibold">
              {#if setting.field === 'name'}
                <input
                  class="w-full border-b border-dotted bg-transparent font-semibold"
                  aria-label="New name"
                  placeholder={merging.together(setting)}
                  bind:value={merging.name}
                />
              {:else}{merging.together(setting)}{/if}
            </td>
          </tr>
        {/each}
        <tr>
          <th class="what" scope="row">Used by</th>
          {#each accounts as one (one.account)}
            <td class={[one.account === merging.survivor && 'keeps', gone(one.account) && 'out']}>
              {#if one.uses.length}
                <span title={one.uses.join('\n')}
                  >{one.uses[0]}{one.uses.length > 1
                    ? ` and ${one.uses.length - 1} more`
                    : ''}</span
                >
              {:else}<span class="text-soft">nothing</span>{/if}
            </td>
          {/each}
          <td class="together font-semibold"
            >{uses.length ? `${uses.length}, all follow` : 'nothing'}</td
          >
        </tr>
        <tr>
          <th class="what" scope="row">Six years</th>
          {#each accounts as { account } (account)}
            <td class={[account === merging.survivor && 'keeps', gone(account) && 'out']}
              ><Strip strip={row(account)?.strip ?? ''} /></td
            >
          {/each}
          <td class="together"></td>
        </tr>
        {#each beside.years as year (year.end)}
          <tr>
            <th class="what" scope="row">Year to {longDate(year.end)}</th>
            {#each accounts as { account }, n (account)}
              <td class={['num', account === merging.survivor && 'keeps', gone(account) && 'out']}
                ><Figure
                  amount={year.nets[n] ?? '0.00'}
                  {account}
                  of={row(account)?.name ?? ''}
                  from={year.start}
                  to={year.end}
                /></td
              >
            {/each}
            <td class="together num font-semibold"
              >{#if merging.out.size === 0}<Money amount={year.together} />{/if}</td
            >
          </tr>
        {/each}
        {#if beside.budgets.length}
          <tr>
            <th class="what" scope="row">
              <button class="link" aria-expanded={months} onclick={() => (months = !months)}
                >Budget, {plural(beside.budgets.length, 'month')}</button
              >
            </th>
            {#each accounts as { account }, n (account)}
              <td class={['num', account === merging.survivor && 'keeps', gone(account) && 'out']}
                ><Money amount={beside.budgeted[n] ?? '0.00'} /></td
              >
            {/each}
            <td class="together num font-semibold"
              >{#if merging.out.size === 0}<Money
                  amount={beside.budgeted.at(-1) ?? '0.00'}
                />{/if}</td
            >
          </tr>
          {#if months}
            {#each beside.budgets as budget (budget.month)}
              <tr>
                <th class="what pl-4" scope="row">{longDate(budget.month).replace(/^\d+ /, '')}</th>
                {#each accounts as { account }, n (account)}
                  <td
                    class={[
                      'num text-soft',
                      account === merging.survivor && 'keeps',
                      gone(account) && 'out',
                    ]}><Money amount={budget.amounts[n] ?? '0.00'} /></td
                  >
                {/each}
                <td class="together num"
                  >{#if merging.out.size === 0}<Money amount={budget.together} />{/if}</td
                >
              </tr>
            {/each}
          {/if}
        {/if}
        <tr>
          <th class="what" scope="row">Lines</th>
          {#each accounts as one (one.account)}
            <td
              class={[
                'num',
                one.account === merging.survivor && 'keeps',
                gone(one.account) && 'out',
              ]}>{count(one.lines)}{one.cleared ? `, ${count(one.cleared)} reconciled` : ''}</td
            >
          {/each}
          <td class="together num font-semibold">{count(lines)}</td>
        </tr>
        {#if accounts.length > 2}
          <tr>
            <th class="what" scope="row">Part of the merge</th>
            {#each accounts as { account } (account)}
              <td class={account === merging.survivor ? 'keeps' : ''}>
                {#if account !== merging.survivor}
                  <input
                    type="checkbox"
                    class="checkbox checkbox-xs"
                    aria-label="{row(account)?.code} is part of the merge"
                    checked={!gone(account)}
                    onchange={() => merging.toggle(account)}
                  />
                {/if}
              </td>
            {/each}
            <td class="together"></td>
          </tr>
        {/if}
      </tbody>
    </table>
  </div>
  <div class="mt-5 flex flex-wrap items-center gap-2">
    {#if merging.isStaged}
      <b class="text-warning">Staged in “{books.plan?.name}”</b>
      <button class="btn btn-quiet" onclick={() => merging.unstage()}>Undo the merge</button>
    {/if}
    <button
      class="btn btn-primary"
      disabled={merging.merged.length === 0 || books.saving}
      onclick={() => merging.stage()}
      >{merging.isStaged ? 'Stage it anew' : 'Stage this merge'}
      <kbd class="kbd kbd-xs bg-transparent text-current">↵</kbd></button
    >
    {#if dismiss}
      <button class="btn btn-quiet" onclick={() => (saying = !saying)}
        >Not the same, because…</button
      >
    {/if}
    <span class="hint"
      >{plural(merging.merged.length, 'account')} would go into {row(merging.survivor)?.code}</span
    >
  </div>
  {#if saying}
    <form class="mt-3 flex max-w-xl gap-2" onsubmit={tellApart}>
      <input
        {@attach (input) => input.focus()}
        class="input grow"
        aria-label="Why they are not the same"
        placeholder="two sites that are budgeted apart"
        required
        maxlength="500"
        bind:value={reason}
      />
      <button class="btn btn-quiet">Remember it</button>
    </form>
  {/if}
  {#each findings as finding (finding.key)}
    <div class="mt-3"><FindingText {finding} /></div>
  {/each}
{:else if !merging.asking.problem}
  <p class="text-soft">Reading…</p>
{/if}

<style>
  .beside {
    width: 100%;
    border-collapse: collapse;
  }
  th,
  td {
    text-align: left;
    padding: 5px 12px;
    border-bottom: 1px solid var(--rule);
    vertical-align: top;
    min-width: 120px;
  }
  thead th {
    border-bottom: 1px solid var(--color-base-content);
    vertical-align: bottom;
  }
  .what {
    color: var(--color-soft);
    font-size: var(--text-label);
    font-weight: 400;
    min-width: 0;
    padding-left: 0;
    white-space: nowrap;
  }
  .num {
    text-align: right;
  }
  .keeps {
    background: var(--ochre-wash);
  }
  .together {
    background: var(--color-base-200);
  }
  .out {
    opacity: 0.45;
    text-decoration: line-through;
  }
  .mark {
    background: var(--color-warning);
    color: var(--color-warning-content);
    border-radius: 4px;
    padding: 1px 6px;
    font-size: 11px;
    font-weight: 600;
  }
  .cell {
    text-align: left;
    cursor: pointer;
  }
  .cell.differs {
    text-decoration: underline dotted;
    text-underline-offset: 3px;
  }
</style>
