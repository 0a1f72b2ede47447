<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, answer } from '$lib/api/client';
  import { instant } from '$lib/figures';
  import Front from '$lib/start/Front.svelte';
  import Problem from '$lib/ui/Problem.svelte';

  const asked = createQuery(() => ({
    queryKey: ['outbox'],
    queryFn: ({ signal }) => answer(api.GET('/api/outbox', { signal })),
    refetchInterval: 5_000,
  }));
  let open = $state(0);
  const letters = $derived(asked.data ?? []);
  const letter = $derived(letters[open]);
  /** The text of a letter, with its links apart. */
  const parts = $derived(letter?.text.split(/(https?:\/\/\S+)/) ?? []);
</script>

<Front title="Outbox">
  <main class="paper flex grow flex-col overflow-hidden px-11 py-6">
    <h1 class="text-2xl">Outbox</h1>
    <p class="text-soft mt-1 mb-4">
      Letters that would have gone out by a mail server. They lie in a folder and go nowhere.
    </p>
    <Problem asked={asked.error} />
    {#if letters.length}
      <div class="grid min-h-0 grow grid-cols-[19rem_1fr] gap-8">
        <ul class="divide-rule divide-y overflow-auto" aria-label="Letters">
          {#each letters as one, n (n)}
            <li>
              <button
                class={['w-full rounded px-3 py-2 text-left', n === open && 'bg-plum-wash']}
                aria-pressed={n === open}
                onclick={() => (open = n)}
              >
                <span class="block truncate font-semibold">{one.subject}</span>
                <span class="hint block truncate">{one.to} · {instant(one.at)}</span>
              </button>
            </li>
          {/each}
        </ul>
        {#if letter}
          <article class="border-rule overflow-auto border-l pl-8">
            <h2 class="text-lg">{letter.subject}</h2>
            <p class="hint mb-4">to {letter.to}, {instant(letter.at)}</p>
            <p class="max-w-2xl leading-relaxed whitespace-pre-wrap">
              {#each parts as part, n (n)}{#if part.startsWith('http')}<a
                    class="link break-all"
                    href={part}>{part}</a
                  >{:else}{part}{/if}{/each}
            </p>
          </article>
        {/if}
      </div>
    {:else}
      <p class="text-soft">{asked.data ? 'No letter was sent yet.' : 'Reading…'}</p>
    {/if}
  </main>
</Front>
