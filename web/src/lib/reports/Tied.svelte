<!-- Beside a statement: what it ties to, what the plan moves, and how it can be read. -->
<script lang="ts">
  import type { Schemas } from '../api/client';
  import { count, isZero, plural, signed } from '../figures';
  import { readings } from './asked';

  let {
    told,
    statement,
    planned,
    file,
    show,
    read,
  }: {
    told: Schemas['StatementsView'];
    statement: Schemas['StatementView'];
    planned: boolean;
    /** Where a file of the statement is, by its ending. */
    file: (ending: string) => string;
    show: (account: number) => void;
    read: (reading: Schemas['Reading']) => void;
  } = $props();

  const FEW = 8;
  let all = $state(false);
  const out = $derived(told.ties.filter((tie) => !isZero(tie.difference)));
</script>

{#snippet length(when: string, { lines, accounts, pages }: Schemas['LengthView'])}
  <div>
    <dt>{when}</dt>
    <dd class="text-right font-normal! whitespace-normal!">
      {plural(lines, 'line')}, {plural(accounts, 'account')},
      <b class="font-semibold">{plural(pages, 'page')}</b>
    </dd>
  </div>
{/snippet}

<aside class="w-[306px] print:hidden shrink-0 overflow-auto px-6 py-5">
  <section>
    <h2>It ties</h2>
    <dl>
      <div>
        <dt>{plural(told.ties.length, 'total')} to the trial balance</dt>
        {#if out.length}<dd class="text-error">{count(out.length)} out</dd>
        {:else}<dd class="text-success">0.00</dd>{/if}
      </div>
      {#each out as tie (tie.name)}
        <div>
          <dt>{tie.name}</dt>
          <dd class="text-error">{signed(tie.difference)}</dd>
        </div>
      {/each}
      <div>
        <dt>accounts on no line</dt>
        <dd class={[told.on_no_line > 0 && 'text-warning']}>
          {count(told.on_no_line)} of {count(told.accounts)}
        </dd>
      </div>
      {#if planned}
        <div>
          <dt>earlier columns changed</dt>
          {#if told.earlier_changed}
            <dd class="text-warning">{plural(told.earlier_changed, 'line')}</dd>
          {:else}<dd class="text-success">none</dd>{/if}
        </div>
      {/if}
    </dl>
  </section>
  {#if planned}
    <section>
      <h2>What the plan moves</h2>
      {#if told.moved.length === 0}
        <p class="hint">Nothing goes from one line of the statements to another.</p>
      {:else}
        <dl>
          {#each all ? told.moved : told.moved.slice(0, FEW) as moved, n (n)}
            <div>
              <dt>
                <button class="link" onclick={() => show(moved.account)}>{moved.code}</button>
                {moved.from} to {moved.to}
                <span class="hint block">{plural(moved.lines, 'line')}</span>
              </dt>
              <dd>{signed(moved.amount)}</dd>
            </div>
          {/each}
        </dl>
        {#if !all && told.moved.length > FEW}
          <button class="link hint mt-2" onclick={() => (all = true)}
            >{count(told.moved.length - FEW)} more</button
          >
        {/if}
      {/if}
    </section>
  {/if}
  <section>
    <h2>Read it</h2>
    <dl>
      {#each readings(planned) as [key, words] (key)}
        <div>
          <dt>
            {#if key === told.reading}<b class="text-primary font-semibold">{words}</b>
            {:else}<button class="link" onclick={() => read(key)}>{words}</button>{/if}
          </dt>
          {#if key === 'as_posted' && told.former}
            <dd class="text-soft font-normal!">{plural(told.former, 'former code')}</dd>
          {/if}
        </div>
      {/each}
    </dl>
  </section>
  <section>
    <h2>How long it is</h2>
    <dl>
      {@render length('today', statement.today)}
      {#if planned}{@render length('after the plan', statement.after)}{/if}
    </dl>
  </section>
  <section>
    <h2>Take it away</h2>
    <p class="flex gap-3 text-[13px]">
      {#each [['xlsx', 'XLSX'], ['ods', 'ODS'], ['csv', 'CSV']] as const as [ending, words] (ending)}
        <a class="link font-semibold" href={file(ending)} download>{words}</a>
      {/each}
      <button class="link font-semibold" onclick={() => window.print()}>Print</button>
    </p>
    <p class="hint mt-1">In workbooks totals are formulas.</p>
  </section>
</aside>

<style>
  aside {
    background: color-mix(in srgb, var(--color-base-200) 45%, var(--color-base-100));
    border-left: 1px solid var(--rule-strong);
  }
  section + section {
    margin-top: 26px;
  }
  h2 {
    font-size: 17px;
    margin-bottom: 8px;
  }
  dl > div {
    display: flex;
    justify-content: space-between;
    gap: 12px;
    padding-block: 5px;
    border-bottom: 1px solid var(--rule);
    font-size: 13px;
  }
  dd {
    font-weight: 600;
    white-space: nowrap;
    font-variant-numeric: tabular-nums;
  }
</style>
