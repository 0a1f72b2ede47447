<!-- A trail, a page at a time, with what narrows it down and where its chain ends. -->
<script lang="ts">
  import { createQuery, keepPreviousData } from '@tanstack/svelte-query';
  import { type Schemas } from '../api/client';
  import { count, instant, plural } from '../figures';
  import DayField from '../ui/DayField.svelte';
  import Problem from '../ui/Problem.svelte';

  type TrailAction = NonNullable<Schemas['TrailView']['action']>;
  /** What narrows a trail down. */
  export interface Sought {
    page: number;
    action?: TrailAction;
    by?: string;
    from?: string;
    until?: string;
    text?: string;
  }

  let {
    key,
    ask,
    file,
    proof = () => null,
  }: {
    key: unknown[];
    ask: (sought: Sought, signal: AbortSignal) => Promise<Schemas['TrailOf']>;
    /** Where the whole trail is handed out, or nowhere. */
    file: string | null;
    /** Where the proof of an application is. */
    proof?: (application: number) => string | null;
  } = $props();

  const PAGE = 100;
  let page = $state(0);
  let action = $state<TrailAction | ''>('');
  let by = $state('');
  let from = $state('');
  let until = $state('');
  let text = $state('');
  const sought = $derived<Sought>({
    page,
    ...(action && { action }),
    ...(by.trim() && { by: by.trim() }),
    ...(from && { from }),
    ...(until && { until }),
    ...(text.trim() && { text: text.trim() }),
  });
  const narrowed = $derived(Boolean(action || by.trim() || from || until || text.trim()));
  const trail = createQuery(() => ({
    queryKey: [...key, sought],
    queryFn: ({ signal }) => ask(sought, signal),
    placeholderData: keepPreviousData,
  }));
  const shown = $derived(trail.data);
  const first = () => (page = 0);
</script>

<div class="mb-4 flex flex-wrap items-end gap-3">
  <label class="grid gap-1">
    <span class="hint">What</span>
    <select class="select w-44" bind:value={action} onchange={first}>
      <option value="">everything</option>
      {#each shown?.actions ?? [] as { action, words } (action)}<option value={action}
          >{words}</option
        >{/each}
    </select>
  </label>
  <label class="grid gap-1">
    <span class="hint">Who</span>
    <input class="input w-36" type="search" bind:value={by} oninput={first} />
  </label>
  <label class="grid gap-1">
    <span class="hint">From</span>
    <DayField optional label="From" value={from} choose={(day) => ((from = day), first())} />
  </label>
  <label class="grid gap-1">
    <span class="hint">Until</span>
    <DayField optional label="Until" value={until} choose={(day) => ((until = day), first())} />
  </label>
  <label class="grid grow gap-1">
    <span class="hint">With the words</span>
    <input class="input w-full" type="search" bind:value={text} oninput={first} />
  </label>
  {#if file}<a class="btn btn-quiet" href={file} download>Export the whole trail</a>{/if}
</div>
<Problem asked={trail.error} />
<table class="ledger">
  <thead><tr><th class="num">Row</th><th>When</th><th>Who</th><th>What</th><th></th></tr></thead>
  <tbody>
    {#each shown?.rows ?? [] as row (row.number)}
      {@const to = row.application ? proof(row.application) : null}
      <tr title="Seal {row.seal}">
        <td class="num text-soft">{count(row.number)}</td>
        <td class="text-soft whitespace-nowrap">{instant(row.at)}</td>
        <td class="whitespace-nowrap">{row.person}</td>
        <td><b class="font-semibold">{row.what}</b> {row.detail}</td>
        <td class="num"
          >{#if to}<a class="link" href={to}>Proof</a>{/if}</td
        >
      </tr>
    {:else}
      <tr>
        <td colspan="5" class="text-soft">
          {#if !shown}Reading…{:else if narrowed}Nothing of that was done.{:else}Nothing was done
            yet.{/if}
        </td>
      </tr>
    {/each}
  </tbody>
</table>
{#if shown && (page > 0 || shown.matching > PAGE)}
  <div class="mt-3 flex items-center gap-2">
    <button class="btn btn-sm btn-quiet" disabled={page === 0} onclick={() => (page -= 1)}
      >Later</button
    >
    <button
      class="btn btn-sm btn-quiet"
      disabled={(page + 1) * PAGE >= shown.matching}
      onclick={() => (page += 1)}>Earlier</button
    >
    <span class="hint">{plural(shown.matching, 'row')}</span>
  </div>
{/if}
{#if shown}
  <p class="hint stitch mt-5 pt-3">
    Each row is sealed over the one before it. Row {count(shown.all)}, the last, has the seal
    <code class="text-base-content break-all">{shown.head}</code>. Whoever notes it elsewhere can
    prove later that no row was changed or taken out:
    <code>zerofold verify --trail FILE --head SEAL</code>
  </p>
{/if}
