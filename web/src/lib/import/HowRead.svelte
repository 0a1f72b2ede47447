<!-- How a file is read: what was found, each thing to be changed; what has to be said; what is worth
     knowing. -->
<script lang="ts">
  import type { Schemas } from '../api/client';
  import { plural } from '../figures';
  import Also from './Also.svelte';
  import Choice from './Choice.svelte';
  import type { Opening } from './opening.svelte';
  import OpeningBalances from './OpeningBalances.svelte';
  import { placeWords } from './place';
  import Questions from './Questions.svelte';
  import Rows from './Rows.svelte';
  import JournalSummary from './JournalSummary.svelte';
  import type { WaitingFile } from './waiting.svelte';

  let { file, opening }: { file: WaitingFile; opening: Opening } = $props();
  type Choices = Schemas['Choices'];
  const looked = $derived(file.looked!);
  const isText = $derived(['CSV', 'FEC'].includes(looked.format));
  const has = (field: string) => looked.columns.some((column) => column.field === field);
  const isAsked = (what: string) => looked.questions.some(({ about }) => about === what);
  const amounts = $derived(['debit', 'credit', 'amount', 'foreign'].some(has));

  const ENCODINGS = ['UTF-8', 'windows-1252', 'UTF-16LE', 'UTF-16BE', 'ISO-8859-2', 'macintosh'];
  const encodings = $derived([...new Set([looked.encoding ?? 'UTF-8', ...ENCODINGS])]);
  const DELIMITERS: [string, string][] = [
    [',', 'comma'],
    [';', 'semicolon'],
    ['\t', 'tab'],
    ['|', 'bar'],
    ['^', 'caret'],
  ];
  const DATES: [string, string][] = [
    ['dmy', 'day first, 24/09/2026'],
    ['mdy', 'month first, 09/24/2026'],
    ['ymd', 'year first, 2026/09/24'],
  ];
  const DECIMALS: [string, string][] = [
    ['point', 'point, 1,250.00'],
    ['comma', 'comma, 1.250,00'],
  ];
  type ChartOptions = Schemas['ChartOptions'];
  const options = $derived(looked.choices.options);
  const wish = (changed: Partial<ChartOptions>) =>
    file.choose((now) => ({ options: { ...now.options, ...changed } }));
  const TOTALS: [ChartOptions['totals'], string][] = [
    ['left_out', 'left out'],
    ['sum_lines', 'become sum lines'],
  ];
  const CODES_BY: [ChartOptions['codes_by'], string][] = [
    ['class', 'a block a class'],
    ['heading', 'a round number a heading'],
    ['order', 'one after the other'],
  ];
  const DIGITS = [3, 4, 5, 6, 7, 8].map((n): [string, string] => [`${n}`, `${n} digits`]);
  // No sheet of a workbook can be called so.
  const TOGETHER = '*';
  const SHEETS = $derived<[string, string][]>([
    ...looked.sheets.map((name): [string, string] => [name, name]),
    ...(looked.sheets.length > 1
      ? [[TOGETHER, 'all with the same columns'] as [string, string]]
      : []),
  ]);
  const ROWS = $derived<[string, string][]>([
    ['0', 'there are none'],
    ...Array.from({ length: 20 }, (_, n): [string, string] => [`${n + 1}`, `row ${n + 1}`]),
    ...(looked.header_row > 20
      ? [[`${looked.header_row}`, `row ${looked.header_row}`] as [string, string]]
      : []),
  ]);
</script>

<aside class="bg-base-200 border-rule-strong w-76 shrink-0 overflow-auto border-l p-5">
  <Also {file} />
  <Questions {file} />
  <h2 class="mb-2 text-base">How it is read</h2>
  <dl>
    {#if looked.sheets.length}
      <Choice
        label="Sheet"
        {file}
        options={SHEETS}
        value={looked.together ? TOGETHER : looked.sheet}
        pick={(sheet) =>
          file.choose({
            sheet: sheet === TOGETHER ? null : sheet,
            all_sheets: sheet === TOGETHER,
            header_row: null,
          })}
      />
    {/if}
    <Choice
      label="Headings"
      {file}
      options={ROWS}
      value={`${looked.header_row}`}
      pick={(row) => file.choose({ header_row: Number(row) })}
    />
    {#if isText}
      <Choice
        label="Delimiter"
        {file}
        options={DELIMITERS}
        value={looked.delimiter ?? ','}
        pick={(delimiter) => file.choose({ delimiter, header_row: null })}
      />
      <Choice
        label="Encoding"
        {file}
        options={encodings.map((name) => [name, name])}
        value={looked.encoding ?? ''}
        pick={(encoding) => file.choose({ encoding })}
      />
    {/if}
    {#if has('date')}
      <Choice
        label="Dates"
        {file}
        options={DATES}
        value={looked.dates ?? ''}
        none={isAsked('dates') ? 'to be said' : 'written without doubt'}
        pick={(dates) => file.choose({ dates: dates as Choices['dates'] })}
      />
    {/if}
    {#if amounts}
      <Choice
        label="Decimal mark"
        {file}
        options={DECIMALS}
        value={looked.decimal ?? ''}
        none={isAsked('decimal') ? 'to be said' : 'none to be seen'}
        pick={(decimal) => file.choose({ decimal: decimal as Choices['decimal'] })}
      />
    {/if}
    {#if looked.accounts?.totals}
      <Choice
        label="Totals"
        {file}
        options={TOTALS}
        value={options.totals}
        pick={(totals) => wish({ totals: totals as ChartOptions['totals'] })}
      />
    {/if}
    {#if looked.accounts?.proposed}
      <Choice
        label="Proposed codes"
        {file}
        options={CODES_BY}
        value={options.codes_by}
        pick={(by) => wish({ codes_by: by as ChartOptions['codes_by'] })}
      />
      <Choice
        label="Their digits"
        {file}
        options={DIGITS}
        value={`${options.code_digits ?? ''}`}
        none="as few as have room"
        pick={(digits) => wish({ code_digits: Number(digits) })}
      />
    {/if}
    {#if looked.outline}
      <div class="border-rule flex justify-between gap-3 border-b py-1.5">
        <dt class="text-soft shrink-0">Outline</dt>
        <dd class="text-right">{looked.outline}</dd>
      </div>
    {/if}
    {#each Object.entries(looked.choices.settled) as [wording, { class: cls, section }] (wording)}
      <div class="border-rule flex justify-between gap-3 border-b py-1.5">
        <dt class="text-soft truncate">“{wording}”</dt>
        <dd class="text-right">{section ? section.replaceAll('_', ' ') : cls}</dd>
      </div>
    {/each}
  </dl>
  {#if looked.choices.corrections.length}
    <p class="mt-3">
      {plural(looked.choices.corrections.length, 'cell')} corrected here.
      <button
        class="link"
        disabled={file.busy !== ''}
        onclick={() => file.choose({ corrections: [] })}
        >Undo {looked.choices.corrections.length === 1 ? 'it' : 'all'}</button
      >
    </p>
  {/if}
  {#if looked.journal}<div class="mt-5"><JournalSummary {file} /></div>{/if}
  {#if looked.balances}<div class="mt-5"><OpeningBalances {file} {opening} /></div>{/if}
  <Rows zero={looked.zero} />
  {#if looked.warnings.length}
    <h2 class="mt-5 mb-2 text-base">Rows worth a look</h2>
    <ul>
      {#each looked.warnings as warning, n (n)}
        <li class="border-rule border-b py-1.5">
          <span class="text-soft">Row {placeWords(warning.place)}:</span>
          {warning.message}
        </li>
      {/each}
    </ul>
  {/if}
</aside>
