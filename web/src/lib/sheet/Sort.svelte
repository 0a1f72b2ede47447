<!-- Class and statement item of the selected rows. It begins with what is; what is not touched stays as it is. -->
<script lang="ts">
  import type { Schemas } from '../api/client';
  import { stage, type Edit } from '../staging/edits';
  import Dialog from '../ui/Dialog.svelte';
  import type { SheetRow } from './rows';
  import { getSheet } from './sheet.svelte';

  let { whom }: { whom: string } = $props();
  const sheet = getSheet();
  const books = sheet.books;
  /** What stands for leaving a field as each of several rows has it. */
  const AS_IT_IS = 'as it is';
  const NONE = 'none';

  const rows = sheet.selected;
  const classOf = (row: SheetRow) => books.seen(row.id, 'class') ?? row.class;
  const sectionOf = (row: SheetRow) => {
    const seen = books.seen(row.id, 'caption');
    return String((seen === undefined ? row.caption : seen) ?? NONE);
  };
  /** What all of them have, or that they differ. */
  function common(values: string[]): string {
    const [first] = values;
    return first !== undefined && values.every((value) => value === first) ? first : AS_IT_IS;
  }
  const classes = common(rows.map(classOf));
  const sections = common(rows.map(sectionOf));
  let chosenClass = $state(classes);
  let section = $state(sections);

  const captions = $derived(
    chosenClass === AS_IT_IS ? [] : books.captionsOf(chosenClass as Schemas['Class']),
  );
  const touched = $derived(chosenClass !== classes || section !== sections);

  /**
   * A statement item belongs to one class: with another class none is chosen until somebody chooses one. Where rows have
   * different ones each keeps its own.
   */
  function classChosen() {
    const fits = section === AS_IT_IS || captions.some((line) => String(line.id) === section);
    if (chosenClass === classes || sections === AS_IT_IS) section = sections;
    else if (!fits) section = NONE;
  }

  async function submit(event: SubmitEvent) {
    event.preventDefault();
    sheet.asked = null;
    const edits = rows.flatMap((row): Edit[] => {
      const own: Edit[] = [];
      if (chosenClass !== classes && chosenClass !== AS_IT_IS) {
        own.push(stage(row.id, { field: 'class', value: chosenClass as Schemas['Class'] }));
      }
      if (section !== sections && section !== AS_IT_IS) {
        const value = section === NONE ? null : Number(section);
        own.push(stage(row.id, { field: 'caption', value }));
      }
      return own;
    });
    await sheet.stage(edits);
  }
</script>

<Dialog title="Class and statement item of {whom}" close={() => (sheet.asked = null)}>
  <form class="grid grid-cols-[5rem_1fr] items-center gap-3" onsubmit={submit}>
    <label for="sort-class">Class</label>
    <select id="sort-class" class="select w-full" bind:value={chosenClass} onchange={classChosen}>
      {#if classes === AS_IT_IS}<option value={AS_IT_IS}>as it is with each</option>{/if}
      {#each books.classes as { class: name } (name)}<option value={name}>{name}</option>{/each}
    </select>
    <label for="sort-section">Statement item</label>
    <select id="sort-section" class="select w-full" bind:value={section}>
      {#if sections === AS_IT_IS}
        <option value={AS_IT_IS}>as it is with each</option>
      {/if}
      <option value={NONE}>none: under no statement item</option>
      {#each captions as line (line.id)}
        <option value={String(line.id)}>{line.name}</option>
      {/each}
    </select>
    {#if touched && section === NONE && sections !== NONE}
      <p class="text-warning col-start-2 text-xs leading-snug">
        {rows.length === 1 ? 'It' : 'They'} would have no statement item. Choose one, unless that is meant.
      </p>
    {/if}
    <button class="btn btn-primary col-start-2 justify-self-end" disabled={!touched}>Stage</button>
  </form>
</Dialog>
