<!-- A set of books among those that one may open: what one wants to know of it before. -->
<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { answer, api, sentence, type Schemas } from '../api/client';
  import { count, longDate, plural } from '../figures';

  let { one }: { one: Schemas['BooksView'] } = $props();

  /** Whether one sees a plan of them only. */
  const guest = $derived(one.plan !== null && one.plan !== undefined);
  const asked = createQuery(() => ({
    enabled: !guest,
    queryKey: ['summary', one.id],
    queryFn: ({ signal }: { signal: AbortSignal }) => {
      const params = { path: { books: one.id } };
      return answer(api.GET('/api/books/{books}/summary', { params, signal }));
    },
  }));
  const summary = $derived(asked.data);
  const at = $derived(`/books/${one.id}`);
  const found = $derived(
    summary
      ? ([
          [summary.look_alikes, 'group that looks alike', 'groups that look alike'],
          [summary.unused, 'unused account', 'unused accounts'],
          [summary.remarks, 'remark', 'remarks'],
        ] as const)
      : [],
  );
</script>

<section class="px-6 py-5" aria-label={one.name}>
  <div class="flex items-baseline gap-3">
    <h2 class="text-xl">
      <a
        class="hover:underline"
        href={guest
          ? `/shared/${one.id}/${one.plan}`
          : `${at}/${one.accounts ? 'chart' : 'import'}`}>{one.name}</a
      >
    </h2>
    <span class="hint">{one.currency}</span>
    <span class="hint">{one.roles.join(', ')}{one.archived ? ' · archived' : ''}</span>
    {#if !guest}
      <span class="text-soft ml-auto">{count(one.accounts)} rows · {plural(one.lines, 'line')}</span
      >
    {/if}
  </div>
  {#if guest}<p class="hint mt-1">You may see one plan of these books.</p>
  {:else if asked.error}<p class="text-error mt-1" role="alert">{sentence(asked.error)}</p>
  {:else if !summary}<p class="hint mt-1">Looking through them…</p>
  {:else}
    <dl class="mt-3 grid grid-cols-4 gap-x-6 text-[13px]">
      <div>
        <dt class="hint">Figures as of</dt>
        <dd>
          {summary.as_of ? longDate(summary.as_of) : 'nothing posted yet'}
          {#if summary.last_posted && summary.last_posted !== summary.as_of}
            <span class="hint block">last posted {longDate(summary.last_posted)}</span>
          {/if}
        </dd>
      </div>
      <div>
        <dt class="hint">Open plans</dt>
        {#each summary.plans as plan (plan.id)}
          <dd>
            <a class="link" href="{at}/plan?plan={plan.id}">{plan.name}</a>
            <span class="hint block">
              {plural(plan.changes, 'change')}{#if plan.stops}, <b class="text-error font-semibold"
                  >{plural(plan.stops, 'stop')}</b
                >{/if} · {plan.person}
            </span>
          </dd>
        {:else}<dd class="text-soft">none</dd>{/each}
      </div>
      <div>
        <dt class="hint">The review finds</dt>
        <dd>
          <a class="hover:underline" href="{at}/review">
            {#each found.filter(([n]) => n > 0) as [n, words, many] (words)}
              <span class="block">{plural(n, words, many)}</span>
            {:else}<span class="text-soft">nothing</span>{/each}
          </a>
        </dd>
      </div>
      <div>
        <dt class="hint">Open to</dt>
        <dd>{summary.people.join(', ')}</dd>
      </div>
    </dl>
  {/if}
</section>
