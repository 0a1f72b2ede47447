<script lang="ts">
  import { goto } from '$app/navigation';
  import { api, answer, sentence } from '$lib/api/client';
  import { getBooks } from '$lib/books.svelte';
  import { count } from '$lib/figures';
  import Hem from '$lib/plan/Hem.svelte';
  import LookAlikes from '$lib/review/LookAlikes.svelte';
  import Remarks from '$lib/review/Remarks.svelte';
  import Unused from '$lib/review/Unused.svelte';
  import { isGroupSettled, isUnusedSettled, type Review } from '$lib/review/settled';
  import { getSheet } from '$lib/sheet/sheet.svelte';

  const books = getBooks();
  const sheet = getSheet();
  let review = $state.raw<Review | null>(null);
  let problem = $state('');
  let view = $state<'alike' | 'unused' | 'odd'>('alike');

  async function load() {
    const path = { params: { path: { books: books.id } } };
    try {
      review = await answer(api.GET('/api/books/{books}/review', path));
    } catch (error) {
      problem = sentence(error);
    }
  }
  void load();

  async function show(account: number) {
    sheet.reveal(account);
    await goto(`/books/${books.id}/chart`);
  }

  /** What is left once the plan is applied. */
  const left = $derived({
    alike: review?.look_alikes.filter((group) => !isGroupSettled(books, group)).length ?? 0,
    unused:
      review?.unused.filter((unused) => unused.fate && !isUnusedSettled(books, unused)).length ?? 0,
    odd: review?.others.length ?? 0,
  });
  const views = [
    ['alike', 'Look-alikes'],
    ['unused', 'Not used'],
    ['odd', 'Also noticed'],
  ] as const;
</script>

<main class="paper flex min-h-0 grow overflow-hidden rounded-b-none!">
  <section class="min-w-0 grow overflow-auto px-11 py-6">
    <h1 class="text-2xl">Review</h1>
    <p class="text-soft mt-1">
      What is probably the same thing, what nobody uses, and what is odd. The counts go down as the
      plan settles them; nothing is changed until it is applied.
    </p>
    {#if problem}<p class="text-error mt-4" role="alert">{problem}</p>{/if}
    {#if review}
      <div role="tablist" class="mt-5 mb-4 flex gap-5">
        {#each views as [key, title] (key)}
          <button
            role="tab"
            aria-selected={view === key}
            class={[
              'border-b-2 pb-1',
              view === key
                ? 'border-primary text-primary font-semibold'
                : 'text-soft border-transparent',
            ]}
            onclick={() => (view = key)}
          >
            {title} <b class="ml-1 text-[11.5px]">{count(left[key])}</b>
          </button>
        {/each}
      </div>
      {#if view === 'alike'}<LookAlikes groups={review.look_alikes} {show} />
      {:else if view === 'unused'}<Unused accounts={review.unused} {show} />
      {:else}<Remarks remarks={review.others} {show} />{/if}
    {:else if !problem}
      <p class="text-soft mt-6">Looking through {count(books.chart?.rows.length ?? 0)} rows…</p>
    {/if}
  </section>
</main>
<Hem />
