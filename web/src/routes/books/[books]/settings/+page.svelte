<script lang="ts">
  import { sentence, type Schemas } from '$lib/api/client';
  import { getBooks } from '$lib/books.svelte';
  import { plural } from '$lib/figures';
  import Ending from '$lib/settings/Ending.svelte';
  import Figures from '$lib/settings/Figures.svelte';
  import Lock from '$lib/settings/Lock.svelte';
  import Members from '$lib/settings/Members.svelte';
  import Row from '$lib/settings/Row.svelte';
  import DayField from '$lib/ui/DayField.svelte';
  import Rules from '$lib/settings/Rules.svelte';
  import { setSettings, SettingsState, type Setting } from '$lib/settings/settings.svelte';
  import Asks from '$lib/ui/Asks.svelte';
  import { Attempt } from '$lib/api/attempt.svelte';
  import Problem from '$lib/ui/Problem.svelte';

  const books = getBooks();
  const settings = setSettings(new SettingsState(books));
  const shown = $derived(settings.shown);
  const open = $derived(settings.may('configure'));
  let name = $state('');
  let currency = $state('');
  let since = $state<'beginning' | 'day' | 'unknown'>('unknown');
  let day = $state('');
  const attempt = new Attempt();
  $effect(() => {
    if (!shown) return;
    [name, currency] = [shown.name, shown.currency];
    since = typeof shown.journal === 'string' ? shown.journal : 'day';
    day = typeof shown.journal === 'string' ? '' : shown.journal.day;
  });

  async function change(setting: Setting) {
    await attempt.run(async () => {
      await settings.change(setting);
    });
  }

  function journal(): Promise<void> {
    const form: Schemas['JournalForm'] = since === 'day' ? { day } : since;
    return change({ journal: form });
  }
</script>

<main class="paper grow overflow-auto px-11 py-6">
  <h1 class="text-2xl">Settings of the books</h1>
  <p class="text-soft mt-1 mb-4">
    Every change stands in the <a class="link" href="trail">trail</a> with old and new.
  </p>
  {#if settings.problem}
    <p class="text-error" role="alert">{sentence(settings.problem)}</p>
  {/if}
  <Problem of={attempt} class="mb-2" />
  {#if shown}
    {#if shown.archived}
      <p class="bg-ochre-wash mb-4 max-w-4xl rounded-lg px-4 py-3" role="status">
        These books are archived: nothing is changed in them.
      </p>
    {/if}
    <div class="divide-rule max-w-4xl divide-y">
      <Row title="Name">
        {#if open}
          <Asks submit="Rename" quiet beside act={() => settings.change({ name })}>
            <input
              class="input w-96"
              aria-label="Name"
              required
              maxlength="120"
              bind:value={name}
            />
          </Asks>
        {:else}{shown.name}{/if}
      </Row>
      <Row title="Currency" about={shown.lines ? 'Fixed, since there are lines.' : undefined}>
        {#if open && !shown.lines}
          <Asks submit="Change" quiet beside act={() => settings.change({ currency })}>
            <input
              class="input w-24 uppercase"
              aria-label="Currency"
              required
              maxlength="3"
              bind:value={currency}
            />
          </Asks>
        {:else}{shown.currency}{/if}
      </Row>
      <Figures {shown} />
      <Lock {shown} />
      <Row
        title="Journal complete from"
        about="Only what is known to be complete proves that an account was never used, so that it can be deleted."
      >
        <div class="flex items-center gap-2">
          <select
            class="select"
            aria-label="Journal complete from"
            disabled={!open}
            bind:value={since}
            onchange={() => since !== 'day' && journal()}
          >
            <option value="beginning">the beginning of every account</option>
            <option value="day">a day</option>
            <option value="unknown">not known</option>
          </select>
          {#if since === 'day'}
            <DayField
              label="The first complete day"
              disabled={!open}
              value={day}
              choose={(chosen) => {
                day = chosen;
                journal();
              }}
            />
          {/if}
        </div>
      </Row>
      <Row
        title="List of uses"
        about="What names accounts elsewhere: bank rules, templates, report layouts, tax returns."
      >
        <label class="flex items-start gap-2">
          <input
            type="checkbox"
            class="checkbox mt-0.5"
            disabled={!open}
            checked={shown.uses_complete}
            onchange={(e) => change({ uses_complete: e.currentTarget.checked })}
          />
          <span>The list that was imported is complete: what it does not name is named nowhere</span
          >
        </label>
      </Row>
      <Row title="Numbering scheme">
        {shown.format}, {plural(shown.blocks, 'block')} ·
        <a class="link" href="renumber">look at it</a>
      </Row>
      <Row title="Statement items">
        <a class="link" href="items">The items of these books</a>
      </Row>
    </div>
    <h2 class="mt-8 mb-2 text-lg">Policy</h2>
    <div class="max-w-4xl"><Rules rules={shown.rules} /></div>
    <h2 class="mt-8 mb-2 text-lg">Members</h2>
    <div class="max-w-4xl"><Members /></div>
    {#if settings.may('dispose')}
      <h2 class="mt-8 mb-2 text-lg">The end of the books</h2>
      <div class="divide-rule max-w-4xl divide-y"><Ending {shown} /></div>
    {/if}
  {:else if !settings.problem}<p class="text-soft">Reading…</p>{/if}
</main>
