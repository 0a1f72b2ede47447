<!-- The settings that change which figures are shown: tried before they are changed. -->
<script lang="ts">
  import type { Schemas } from '../api/client';
  import { count, longDate } from '../figures';
  import Asks from '../ui/Asks.svelte';
  import Dialog from '../ui/Dialog.svelte';
  import Row from './Row.svelte';
  import { getSettings, type Setting } from './settings.svelte';
  import Tried from './Tried.svelte';
  import { Attempt } from '../api/attempt.svelte';
  import Problem from '../ui/Problem.svelte';

  let { shown }: { shown: Schemas['SettingsView'] } = $props();
  const settings = getSettings();
  const open = $derived(settings.may('configure'));
  // What is chosen stays while other settings are kept; it begins anew only when it is changed itself.
  const savedMonth = $derived(shown.year_month);
  const savedDay = $derived(shown.year_day);
  const savedAsOf = $derived(shown.as_of ?? '');
  let month = $derived(savedMonth);
  let day = $derived(savedDay);
  let asOf = $derived(savedAsOf);
  let tried = $state.raw<{ change: Setting; view: Schemas['SettingPreview'] } | null>(null);
  const attempt = new Attempt();

  const MONTHS = Array.from({ length: 12 }, (_, n) =>
    new Date(2026, n, 1).toLocaleString('en-GB', { month: 'long' }),
  );

  async function look(change: Setting) {
    await attempt.run(async () => {
      tried = { change, view: await settings.preview(change) };
    });
  }

  async function change() {
    if (!tried) return;
    await settings.change(tried.change);
    tried = null;
  }
</script>

<Row
  title="Fiscal year"
  about={shown.lines
    ? 'The day is fixed, since there are lines; the month can be changed.'
    : undefined}
>
  <div class="flex items-center gap-2">
    <span>from</span>
    <input
      class="input w-18"
      type="number"
      min="1"
      max="28"
      aria-label="Day"
      disabled={!open || shown.lines > 0}
      bind:value={day}
    />
    <select class="select" aria-label="Month" disabled={!open} bind:value={month}>
      {#each MONTHS as month, n (month)}<option value={n + 1}>{month}</option>{/each}
    </select>
    {#if month !== savedMonth || day !== savedDay}
      <button
        class="btn btn-sm btn-quiet"
        onclick={() => look({ year: { year_month: month, year_day: day } })}
        >See what would change…</button
      >
    {/if}
  </div>
</Row>
<Row title="Figures as of" about="Balances and reports count lines up to this day.">
  <div class="flex items-center gap-2">
    <select class="select" aria-label="Figures as of" disabled={!open} bind:value={asOf}>
      <option value="">the latest month with its usual lines</option>
      {#each shown.ends as end (end)}<option value={end}>{longDate(end)}</option>{/each}
      {#if shown.as_of && !shown.ends.includes(shown.as_of)}
        <option value={shown.as_of}>{longDate(shown.as_of)}</option>
      {/if}
    </select>
    {#if asOf !== savedAsOf}
      <button class="btn btn-sm btn-quiet" onclick={() => look({ as_of: { date: asOf || null } })}
        >See what would change…</button
      >
    {/if}
  </div>
</Row>
<Problem of={attempt} class="pb-3" />
{#if tried}
  <Dialog title="What would change" close={() => (tried = null)} wide>
    <Asks submit="Change it" act={change}>
      <Tried tried={tried.view} />
      <p class="hint">
        These books have {count(shown.lines)} lines. The change is noted in the trail with old and new.
      </p>
    </Asks>
  </Dialog>
{/if}
