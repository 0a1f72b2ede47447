<script lang="ts">
  import { goto } from '$app/navigation';
  import { api, answer } from '$lib/api/client';
  import { pagesOf } from '$lib/api/queries';
  import { getBooks } from '$lib/books.svelte';
  import { getCommands, press } from '$lib/commands/commands.svelte';
  import { count, plural } from '$lib/figures';
  import Merge from '$lib/merge/Merge.svelte';
  import { MergingState } from '$lib/merge/merging.svelte';
  import StatusBar from '$lib/plan/StatusBar.svelte';
  import NotDuplicates from '$lib/review/NotDuplicates.svelte';
  import Dismissed from '$lib/review/Dismissed.svelte';
  import Evidence from '$lib/review/Evidence.svelte';
  import LookAlikes from '$lib/review/LookAlikes.svelte';
  import Remarks from '$lib/review/Remarks.svelte';
  import Retired from '$lib/review/Retired.svelte';
  import Unused from '$lib/review/Unused.svelte';
  import {
    isGroupSettled,
    isRemarkSettled,
    isUnusedSettled,
    keyOf,
    type LookAlike,
    type Remark,
    together,
  } from '$lib/review/settled';
  import { getSheet } from '$lib/sheet/sheet.svelte';
  import { Attempt } from '$lib/api/attempt.svelte';
  import Problem from '$lib/ui/Problem.svelte';

  const books = getBooks();
  const sheet = getSheet();
  const merging = new MergingState(books);
  const attempt = new Attempt();
  let since = $state<string>();
  let beside = $state<HTMLElement>();
  /** A group by its accounts, `sure`, `worth`, `unused`, `retired`, `marked`, `dismissed`, or the kind of a remark. */
  let view = $state('sure');

  const asked = pagesOf(
    () => ['review', books.id, since],
    (page, signal) => {
      const params = { path: { books: books.id }, query: { since, page } };
      return answer(api.GET('/api/books/{books}/review', { params, signal }));
    },
  );
  const review = $derived(asked.data && together(asked.data));

  async function show(account: number) {
    sheet.reveal(account);
    await goto(`/books/${books.id}/chart`);
  }

  const tiers = $derived([
    { tier: 'sure', title: 'Look-alikes', groups: review?.look_alikes ?? [] },
    { tier: 'worth', title: 'Worth a look', groups: review?.worth_a_look ?? [] },
  ]);
  /** The tier that is shown, or whose group is. */
  const tier = $derived(
    tiers.find((one) => one.tier === view || one.groups.some((group) => keyOf(group) === view)),
  );
  const group = $derived(tier?.groups.find((one) => keyOf(one) === view));
  const leftOf = (groups: LookAlike[]) =>
    groups.filter((one) => !isGroupSettled(books, one)).length;
  const kinds = $derived(
    [...new Map(review?.others.map(({ kind, title }) => [kind, title]))].map(([kind, title]) => {
      const remarks = review?.others.filter((remark) => remark.kind === kind) ?? [];
      const left = remarks.filter((remark) => !isRemarkSettled(books, remark)).length;
      return { kind, title, remarks, left };
    }),
  );
  const unusedLeft = $derived(
    review?.unused.filter((unused) => unused.fate && !isUnusedSettled(books, unused)).length ?? 0,
  );
  const chosen = $derived(kinds.find(({ kind }) => kind === view));
  const TITLES: Record<string, string> = {
    sure: 'Accounts that look like one',
    worth: 'Accounts that may be one',
    unused: 'Accounts that nobody uses',
    retired: 'Retired accounts',
    marked: 'Not duplicates',
    dismissed: 'Not in these books',
  };
  const NUMBERS = ['', '', 'Two', 'Three', 'Four', 'Five', 'Six'];

  async function open(one: LookAlike) {
    view = keyOf(one);
    await merging.load(one.accounts);
    // The list is long; who works by the keyboard goes on beside it.
    beside?.focus();
  }

  async function next(by: number) {
    const groups = tier?.groups ?? [];
    const other = groups[groups.findIndex((one) => keyOf(one) === view) + by];
    if (other) await open(other);
  }

  async function dismiss(reason: string) {
    if (!group) return;
    const body = { accounts: group.accounts, reason };
    const params = { path: { books: books.id } };
    const shown = view;
    await attempt.run(async () => {
      await answer(api.POST('/api/books/{books}/not-duplicates', { params, body }));
      // Whoever went on meanwhile is not called back.
      if (view === shown) view = tier?.tier ?? 'sure';
      await asked.refetch();
    });
  }

  async function unmark(mark: number) {
    const params = { path: { books: books.id, mark } };
    await answer(api.DELETE('/api/books/{books}/not-duplicates/{mark}', { params }));
    await asked.refetch();
  }

  async function dismissRemark(remark: Remark, reason: string, all: boolean) {
    const { kind, item } = remark;
    const about = all ? {} : { account: remark.accounts[0], item };
    const params = { path: { books: books.id } };
    const body = { kind, reason, ...about };
    await attempt.run(async () => {
      await answer(api.POST('/api/books/{books}/dismissed', { params, body }));
      await asked.refetch();
      if (all && view === kind) view = 'dismissed';
    });
  }

  async function remarkAgain(dismissed: number) {
    const params = { path: { books: books.id, dismissed } };
    await answer(api.DELETE('/api/books/{books}/dismissed/{dismissed}', { params }));
    await asked.refetch();
  }

  const cannot = () => (group ? '' : 'choose a group of accounts that look alike');
  const ofGroups = {
    title: 'Accounts that look alike',
    rank: 0,
    commands: [
      { name: 'The next group', keys: ['↓'], cannot, run: () => next(1) },
      { name: 'The group before', keys: ['↑'], cannot, run: () => next(-1) },
      {
        name: 'Stage the merge, and go to the next group',
        keys: ['Enter'],
        cannot,
        run: () => merging.stage().then(() => next(1)),
      },
    ],
  };
  getCommands().offer(ofGroups);

  function pressed(event: KeyboardEvent) {
    const { target } = event;
    if (!group || (target instanceof Element && target.closest('input, select, dialog'))) return;
    // Enter presses the button that it is on.
    if (event.key === 'Enter' && target instanceof Element && target.closest('button, a')) return;
    void press(ofGroups.commands, event);
  }
</script>

{#snippet entry(to: string, title: string, number: number, done = false)}
  <button
    class={['entry', view === to && 'here', done && 'done']}
    aria-current={view === to ? 'true' : undefined}
    onclick={() => (view = to)}
  >
    <span class="font-serif text-[15px] font-semibold first-letter:uppercase">{title}</span>
    <b class="text-warning text-[11.5px]">{count(number)}</b>
  </button>
{/snippet}

<svelte:window onkeydown={pressed} />
<main class="paper flex min-h-0 grow overflow-hidden rounded-b-none!">
  <nav
    class="bg-base-200 border-rule-strong w-72 shrink-0 overflow-auto border-r py-4"
    aria-label="Findings"
  >
    <h1 class="px-4 pb-2 text-2xl">Review</h1>
    {#if review}
      {#each tiers as { tier: own, title, groups } (own)}
        {@render entry(own, title, leftOf(groups))}
        <div class="max-h-[42vh] overflow-auto" hidden={own !== tier?.tier}>
          {#each groups as one (keyOf(one))}
            {@const settled = isGroupSettled(books, one)}
            <button
              class={['entry group', view === keyOf(one) && 'here', settled && 'done']}
              aria-current={view === keyOf(one) ? 'true' : undefined}
              onclick={() => open(one)}
            >
              <span class="truncate">{books.byId.get(one.survivor)?.name}</span>
              <span class="hint shrink-0">{plural(one.accounts.length, 'account')}</span>
            </button>
          {/each}
        </div>
      {/each}
      {@render entry('unused', 'Not used', unusedLeft)}
      {#each kinds as { kind, title, left } (kind)}{@render entry(
          kind,
          title,
          left,
          left === 0,
        )}{/each}
      {@render entry('retired', 'Retired', review.retired.length)}
      {@render entry('marked', 'Not duplicates', review.not_duplicates.length)}
      {@render entry('dismissed', 'Not in these books', review.dismissed.length)}
    {/if}
  </nav>
  <section
    bind:this={beside}
    tabindex="-1"
    class="min-w-0 grow overflow-auto px-9 py-6 focus-visible:outline-none!"
  >
    <Problem of={attempt} asked={asked.error} class="mb-4" />
    {#if review}
      <h2 class="mb-2 text-2xl first-letter:uppercase">
        {#if group}{NUMBERS[group.accounts.length] ?? group.accounts.length} accounts that
          {tier?.tier === 'worth' ? 'may be' : 'look like'} one
        {:else}{chosen?.title ?? TITLES[view] ?? ''}{/if}
      </h2>
      {#if group}
        <div class="mb-4 max-w-4xl"><Evidence {group} /></div>
        <Merge {merging} {show} {dismiss} />
      {:else if chosen}<Remarks remarks={chosen.remarks} {show} dismiss={dismissRemark} />
      {:else if view === 'unused'}
        <Unused
          accounts={review.unused}
          since={review.since}
          {show}
          sinceChanged={(day) => (since = day)}
        />
      {:else if view === 'retired'}<Retired accounts={review.retired} {show} />
      {:else if view === 'marked'}<NotDuplicates marked={review.not_duplicates} {unmark} />
      {:else if view === 'dismissed'}
        <Dismissed dismissed={review.dismissed} forget={remarkAgain} />
      {:else}{#key view}<LookAlikes groups={tier?.groups ?? []} {open} />{/key}{/if}
    {:else if !attempt.problem && !asked.error}
      <p class="text-soft">Looking through {count(books.chart?.rows.length ?? 0)} rows…</p>
    {/if}
  </section>
</main>
<StatusBar />

<style>
  .entry {
    display: flex;
    width: 100%;
    align-items: baseline;
    justify-content: space-between;
    gap: 8px;
    padding: 6px 16px;
    border-left: 3px solid transparent;
    text-align: left;
    cursor: pointer;
  }
  .entry.group {
    padding-left: 24px;
    padding-block: 4px;
  }
  .entry.here {
    border-left-color: var(--color-primary);
    background: var(--color-secondary);
    font-weight: 600;
  }
  .entry.done {
    color: var(--color-soft);
    text-decoration: line-through;
  }
</style>
