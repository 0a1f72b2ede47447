<!-- Up to when the books are locked: locked further, or opened again with a reason. -->
<script lang="ts">
  import type { Schemas } from '../api/client';
  import { longDate } from '../figures';
  import Asks from '../ui/Asks.svelte';
  import Dialog from '../ui/Dialog.svelte';
  import Field from '../ui/Field.svelte';
  import Row from './Row.svelte';
  import { getSettings } from './settings.svelte';

  let { shown }: { shown: Schemas['SettingsView'] } = $props();
  const settings = getSettings();
  let asking = $state<'lock' | 'unlock' | ''>('');
  let until = $state('');
  let reason = $state('');
  const later = $derived(shown.ends.filter((end) => end > (shown.locked ?? '')));
  const earlier = $derived(shown.ends.filter((end) => end < (shown.locked ?? '')));

  async function go() {
    if (asking === 'lock') await settings.lock(until);
    else await settings.unlock(until || null, reason);
    [asking, reason] = ['', ''];
  }
  function ask(what: 'lock' | 'unlock') {
    until = what === 'lock' ? (later[0] ?? '') : (earlier[0] ?? '');
    asking = what;
  }
</script>

<Row
  title="Locked up to"
  about="A plan may not change the total of a statement item in locked months, unless a reviewer overrides that with a reason."
>
  <div class="flex items-center gap-3">
    <span>{shown.locked ? longDate(shown.locked) : 'nothing is locked'}</span>
    {#if settings.may('lock') && later.length}
      <button class="btn btn-sm btn-quiet" onclick={() => ask('lock')}
        >{shown.locked ? 'Lock further…' : 'Lock…'}</button
      >
    {/if}
    {#if settings.may('unlock') && shown.locked}
      <button class="btn btn-sm btn-quiet" onclick={() => ask('unlock')}>Open again…</button>
    {/if}
  </div>
</Row>
{#if asking}
  <Dialog
    title={asking === 'lock' ? 'Lock the books' : 'Open locked months again'}
    close={() => (asking = '')}
  >
    <Asks submit={asking === 'lock' ? 'Lock them' : 'Open them'} act={go}>
      <label class="grid gap-1">
        <span class="hint">{asking === 'lock' ? 'The last locked day' : 'What stays locked'}</span>
        <select class="select w-full" bind:value={until}>
          {#if asking === 'unlock'}<option value="">nothing</option>{/if}
          {#each asking === 'lock' ? later : earlier as end (end)}
            <option value={end}>up to {longDate(end)}</option>
          {/each}
        </select>
      </label>
      {#if asking === 'unlock'}
        <Field
          title="Why"
          hint="It stands in the trail under your name."
          required
          focus
          bind:value={reason}
        />
      {/if}
    </Asks>
  </Dialog>
{/if}
