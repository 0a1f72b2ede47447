<!-- The status bar: keeps score of the open plan and earns its 0.00 live. -->
<script lang="ts">
  import KeyOf from '../commands/KeyOf.svelte';
  import { count, isZero, signed } from '../figures';
  import PlanMenu from './PlanMenu.svelte';
  import { getPlanCommands } from './commands.svelte';

  let { message = '' }: { message?: string } = $props();
  const plans = getPlanCommands();
  const books = plans.books;
  const report = $derived(books.plan?.report);
  const changes = $derived(books.changes);
  const [stops, cautions] = $derived([books.stops.length, books.cautions.length]);
</script>

<footer class="status-bar paper stitch" aria-label="Score of the plan">
  <PlanMenu />
  {#if report}
    <div class="score">
      <b>{count(changes)}</b><span>{changes === 1 ? 'change' : 'changes'}</span>
    </div>
    <a href="/books/{books.id}/plan" class="score" class:text-error={stops > 0}>
      <b>{count(stops)}</b><span>{stops === 1 ? 'stop' : 'stops'}</span>
    </a>
    <a href="/books/{books.id}/plan" class="score" class:text-warning={cautions > 0}>
      <b>{count(cautions)}</b><span>{cautions === 1 ? 'caution' : 'cautions'}</span>
    </a>
    <div class="score">
      <b>{count(report.accounted)} of {count(report.lines)}</b><span>lines accounted for</span>
    </div>
    <div class="flex items-baseline gap-2">
      <span class="hint">difference</span>
      <output
        class={[
          'font-serif text-[25px] leading-none font-semibold',
          !isZero(report.difference) && 'text-error',
        ]}
        aria-label="Difference">{signed(report.difference)}</output
      >
    </div>
  {:else}
    <p class="text-soft">
      {#if books.may('stage')}The first change begins a plan; nothing is changed in the books until
        it is applied.{:else}You look at these books; whoever prepares changes can begin a plan.{/if}
    </p>
  {/if}
  <p class="text-error max-w-72 text-xs leading-tight" role="status">{message || books.notice}</p>
  <div class="ml-auto flex shrink-0 items-center gap-2">
    {#if books.may('stage')}
      <button
        class="btn btn-quiet"
        disabled={plans.undo.cannot?.() !== ''}
        onclick={() => plans.undo.run()}>Undo <KeyOf of={plans.undo} /></button
      >
      {#if !plans.redo.cannot?.()}
        <button class="btn btn-quiet" onclick={() => plans.redo.run()}
          >Redo <KeyOf of={plans.redo} /></button
        >
      {/if}
    {/if}
    {#if books.may('apply')}
      <button
        class="btn btn-primary"
        disabled={plans.apply.cannot?.() !== ''}
        title={plans.apply.cannot?.()}
        onclick={() => plans.apply.run()}
        >Apply {changes === 1 ? '1 change' : `${count(changes)} changes`}</button
      >
    {:else if changes > 0}<span class="hint">a reviewer applies it</span>{/if}
  </div>
</footer>

<style>
  .status-bar {
    display: flex;
    flex-wrap: wrap;
    flex-shrink: 0;
    align-items: center;
    gap: 4px 24px;
    min-height: 54px;
    padding: 4px 16px;
    border-radius: 0 0 10px 10px;
  }
  .score {
    display: flex;
    flex-direction: column;
    white-space: nowrap;
  }
  .score b {
    font-size: 15px;
    font-weight: 600;
    line-height: 1.2;
  }
  .score span {
    color: var(--color-soft);
    font-size: 11.5px;
  }
</style>
