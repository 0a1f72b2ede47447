<!-- A rule for new codes, said as a sentence with blanks, and whom it is for. -->
<script lang="ts">
  import { plural } from '../figures';
  import { getSheet } from '../sheet/sheet.svelte';
  import { getNumbering } from './numbering.svelte';

  const numbering = getNumbering();
  const sheet = getSheet();
  const books = sheet.books;
  const headings = $derived(sheet.all.filter((row) => row.kind === 'heading'));
  const changed = () => numbering.changed();
  const rewrites = $derived(['replace', 'insert', 'remove', 'pad'].includes(numbering.ruleKind));
</script>

{#snippet order()}
  in the order of
  <select class="blank" aria-label="Order" bind:value={numbering.order} onchange={changed}>
    <option value="code">today’s codes</option>
    <option value="name">their names, within each heading</option>
    <option value="balance">their balances, within each heading</option>
  </select>
{/snippet}
{#snippet number(label: string, value: number, set: (n: number) => void)}
  <input
    type="number"
    class="blank w-14"
    min="0"
    aria-label={label}
    {value}
    oninput={(event) => (set(Number(event.currentTarget.value)), changed())}
  />
{/snippet}

<div class="leading-8">
  <p>
    <select
      class="blank font-semibold"
      aria-label="Rule"
      bind:value={numbering.ruleKind}
      onchange={changed}
    >
      <option value="spread">Number evenly</option>
      <option value="fit">Fit into the blocks of the scheme</option>
      <option value="replace">Replace a part of each code</option>
      <option value="insert">Insert something into each code</option>
      <option value="remove">Remove a part of each code</option>
      <option value="pad">Fill up with zeros</option>
      <option value="affix">Add a prefix or suffix</option>
    </select>
    {numbering.copying ? 'to make new accounts after' : 'for'}
    <select
      class="blank"
      aria-label="Whom the rule is for"
      bind:value={numbering.scopeKind}
      onchange={changed}
    >
      <option value="under">all under a heading</option>
      {#if numbering.accounts.length}
        <option value="accounts">the {plural(numbering.accounts.length, 'chosen row')}</option>
      {/if}
      <option value="class">a class</option>
      <option value="codes">a stretch of codes</option>
      <option value="words">names or codes with</option>
      <option value="all">all rows</option>
    </select>
    {#if numbering.scopeKind === 'under'}
      <select
        class="blank max-w-64"
        aria-label="Heading"
        bind:value={numbering.heading}
        onchange={changed}
      >
        <option value={0}>which one?</option>
        {#each headings as row (row.id)}<option value={row.id}>{row.code} {row.name}</option>{/each}
      </select>
    {:else if numbering.scopeKind === 'class'}
      <select class="blank" aria-label="Class" bind:value={numbering.class} onchange={changed}>
        {#each books.classes as { class: name } (name)}<option value={name}>{name}</option>{/each}
      </select>
    {:else if numbering.scopeKind === 'codes'}
      <input
        class="blank w-40"
        aria-label="Codes"
        placeholder="5000 to 5999"
        bind:value={numbering.codes}
        oninput={changed}
      />
    {:else if numbering.scopeKind === 'words'}
      <input
        class="blank w-40"
        aria-label="Words"
        placeholder="café"
        bind:value={numbering.words}
        oninput={changed}
      />
    {/if}:
  </p>
  {#if numbering.ruleKind === 'spread'}
    <p>
      start at
      <input
        class="blank w-20"
        aria-label="Start at"
        placeholder="5010"
        bind:value={numbering.start}
        oninput={changed}
      />, then every {@render number('Step', numbering.step, (n) => (numbering.step = n))},
      {@render order()},
    </p>
    <p>
      and leave {@render number(
        'Free after each heading',
        numbering.gap,
        (n) => (numbering.gap = n),
      )}
      free below each heading’s rows.
    </p>
  {:else if numbering.ruleKind === 'fit'}
    <p>
      every
      <input
        type="number"
        class="blank w-24"
        min="1"
        aria-label="Step"
        placeholder="as there is room"
        bind:value={numbering.fitStep}
        oninput={changed}
      />, {@render order()}.
    </p>
  {:else if rewrites}
    <p>
      in
      <select class="blank" aria-label="Piece" bind:value={numbering.piece} onchange={changed}>
        <option value="characters">some characters</option>
        <option value="segment">a segment</option>
        {#if numbering.ruleKind !== 'remove'}<option value="whole">the whole code</option>{/if}
      </select>
      {#if numbering.piece === 'segment'}
        number {@render number('Segment', numbering.segment, (n) => (numbering.segment = n))}
      {:else if numbering.piece === 'characters'}
        from number {@render number('From character', numbering.from, (n) => (numbering.from = n))}
        {#if numbering.ruleKind !== 'insert'}
          , {@render number('Characters', numbering.count, (n) => (numbering.count = n))} of them
        {/if}
      {/if}
    </p>
    {#if numbering.ruleKind === 'replace'}
      <p>
        where it reads
        <input
          class="blank w-20"
          aria-label="Where it reads"
          placeholder="anything"
          bind:value={numbering.reads}
          oninput={changed}
        />
        write
        <input
          class="blank w-20"
          aria-label="Write"
          bind:value={numbering.text}
          oninput={changed}
        />.
      </p>
    {:else if numbering.ruleKind === 'insert'}
      <p>
        put <input
          class="blank w-20"
          aria-label="Put"
          bind:value={numbering.text}
          oninput={changed}
        /> in front of it.
      </p>
    {:else if numbering.ruleKind === 'pad'}
      <p>
        add zeros
        <select class="blank" aria-label="Where" bind:value={numbering.front} onchange={changed}>
          <option value={false}>at the end</option>
          <option value={true}>in front</option>
        </select>
        until it has {@render number('Width', numbering.width, (n) => (numbering.width = n))} characters.
      </p>
    {/if}
  {:else}
    <p>
      before each <input
        class="blank w-20"
        aria-label="Before"
        bind:value={numbering.prefix}
        oninput={changed}
      />, behind each
      <input
        class="blank w-20"
        aria-label="Behind"
        bind:value={numbering.suffix}
        oninput={changed}
      />.
    </p>
  {/if}
  <p>
    <label class="inline-flex cursor-pointer items-center gap-2 text-xs">
      <input
        type="checkbox"
        class="checkbox checkbox-xs"
        bind:checked={numbering.copying}
        onchange={changed}
      />
      make new accounts with these codes, and leave the old ones as they are
    </label>
  </p>
  {#if numbering.copying}
    <p>
      in their names write
      <input
        class="blank w-28"
        aria-label="New names write"
        placeholder="Mossdale"
        bind:value={numbering.nameWith}
        oninput={changed}
      />
      for
      <input
        class="blank w-28"
        aria-label="Old names read"
        placeholder="Larkfell"
        bind:value={numbering.nameReads}
        oninput={changed}
      />.
    </p>
  {/if}
</div>
