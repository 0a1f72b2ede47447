<!-- A new account or heading: what belongs where, which code is free, and what it starts with. -->
<script lang="ts">
  import { Asking } from '../api/debounce';
  import { api, answer, type Schemas } from '../api/client';
  import { plural, signed } from '../figures';
  import Dialog from '../ui/Dialog.svelte';
  import { getSheet } from './sheet.svelte';
  import { Attempt } from '../api/attempt.svelte';
  import Problem from '../ui/Problem.svelte';

  const sheet = getSheet();
  const books = sheet.books;
  const close = () => (sheet.asked = null);
  const row = sheet.current;
  const headings = $derived(sheet.all.filter((row) => row.kind === 'heading'));
  // Starts from the row under the cursor, or from what stands under it.
  const near = sheet.all.find((other) => other.parent === row?.id && other.caption) ?? row;
  const of = row?.class || 'expense';
  let code = $state('');
  let name = $state('');
  let kind = $state<Schemas['Kind']>('account');
  let classOf = $state(of);
  let caption = $state(near?.caption ?? null);
  let under = $state(String((row?.kind === 'heading' ? row.id : row?.parent) ?? ''));
  let tax = $state<string | null>(null);
  let description = $state('');
  let place = $state.raw<Schemas['PlaceView'] | null>(null);
  const attempt = new Attempt();
  const asking = new Asking();

  async function ask(wanted: { code: string; class: Schemas['Class']; caption: number | null }) {
    const isLatest = asking.begin();
    const query = {
      plan: books.plan?.id,
      code: wanted.code.trim() || undefined,
      class: wanted.class,
      caption: wanted.caption ?? undefined,
    };
    const params = { path: { books: books.id }, query };
    const answered = await answer(api.GET('/api/books/{books}/codes', { params }));
    if (isLatest()) place = answered;
  }
  $effect(() => void ask({ code, class: classOf, caption }));

  async function add(event: SubmitEvent) {
    event.preventDefault();
    await attempt.run(async () => {
      await books.add({
        code,
        name,
        kind,
        class: classOf,
        caption,
        parent: Number(under) || null,
        tax: (tax ?? place?.tax) || null,
        description: description || null,
      });
      close();
    });
  }
</script>

<Dialog title="Add to the chart" {close} wide>
  <form class="grid grid-cols-[6rem_1fr] items-center gap-x-3 gap-y-2.5" onsubmit={add}>
    <label for="add-class">Class</label>
    <div class="flex gap-2">
      <select
        id="add-class"
        class="select w-36"
        bind:value={classOf}
        onchange={() => (caption = null)}
      >
        {#each books.classes as { class: name } (name)}<option value={name}>{name}</option>{/each}
      </select>
      <select id="add-section" class="select grow" aria-label="Statement item" bind:value={caption}>
        <option value={null}>no statement item</option>
        {#each books.captionsOf(classOf) as item (item.id)}
          <option value={item.id}>{item.name}</option>
        {/each}
      </select>
    </div>
    <p class="hint col-start-2 -mt-1 min-h-8 leading-snug">
      {place?.about}
      {#if place?.neighbours.length}For example {place.neighbours.join(', ')}.{/if}
      {#if kind === 'account' && place}
        <span class="block">
          {#if place.item}
            It will stand under “{place.item.name}”, where {plural(place.item.accounts, 'account')}
            {place.item.accounts === 1 ? 'comes' : 'come'} to {signed(place.item.amount)} today.
          {:else}<b class="text-warning font-semibold">It will stand under no statement item.</b
            >{/if}
        </span>
      {/if}
    </p>
    <label for="add-code">Code</label>
    <div class="flex items-center gap-2">
      <!-- svelte-ignore a11y_autofocus -->
      <input id="add-code" class="input w-32" required autofocus bind:value={code} />
      {#if place?.next && code.trim() !== place.next}
        <button
          type="button"
          class="btn btn-sm btn-quiet"
          onclick={() => (code = place?.next ?? '')}>Next free: {place.next}</button
        >
      {/if}
      <span class={['text-xs', code.trim() && place && !place.free ? 'text-error' : 'text-soft']}
        >{code.trim() ? place?.message : ''}</span
      >
    </div>
    <label for="add-name">Name</label>
    <input id="add-name" class="input w-full" required bind:value={name} />
    <label for="add-kind">Row</label>
    <select id="add-kind" class="select w-full" bind:value={kind}>
      <option value="account">account, takes journal lines</option>
      <option value="heading">heading, groups the rows below it</option>
    </select>
    <label for="add-parent">Heading</label>
    <select id="add-parent" class="select w-full" bind:value={under}>
      <option value="">none</option>
      {#each headings as row (row.id)}<option value={String(row.id)}>{row.code} {row.name}</option
        >{/each}
    </select>
    {#if kind === 'account'}
      <label for="add-tax">Tax code</label>
      <input
        id="add-tax"
        class="input w-32"
        value={tax ?? place?.tax ?? ''}
        oninput={(event) => (tax = event.currentTarget.value)}
      />
    {/if}
    <label for="add-description">What for</label>
    <input
      id="add-description"
      class="input w-full"
      placeholder="shown wherever an account is picked"
      bind:value={description}
    />
    <Problem of={attempt} class="col-start-2" />
    <button class="btn btn-primary col-start-2 justify-self-end">Stage the new row</button>
  </form>
</Dialog>
