<!-- A second factor: added with a device, confirmed by a code, and removed again. -->
<script lang="ts">
  import { api, answer, type Schemas } from '../api/client';
  import { instant, plural } from '../figures';
  import Asks from '../ui/Asks.svelte';
  import Field from '../ui/Field.svelte';
  import OwnProof from './OwnProof.svelte';

  let { account, changed }: { account: Schemas['AccountView']; changed: () => unknown } = $props();
  const nothing = () => ({ password: '', code: '' });
  let shown = $state(nothing());
  let code = $state('');
  let proposed = $state.raw<Schemas['FactorView'] | null>(null);
  let codes = $state.raw<string[]>([]);
  let asking = $state(false);

  async function add() {
    proposed = await answer(api.POST('/api/account/factor', { body: shown }));
    [shown, asking] = [nothing(), false];
  }

  async function confirm() {
    const kept = await answer(api.PUT('/api/account/factor', { body: { code } }));
    codes = kept.recovery_codes;
    [proposed, code] = [null, ''];
    await changed();
  }

  async function remove() {
    await answer(api.POST('/api/account/factor/removal', { body: shown }));
    [shown, asking, codes] = [nothing(), false, []];
    await changed();
  }
</script>

{#snippet behindPassword(submit: string, act: () => Promise<void>, label: string)}
  {#if asking}
    <Asks {submit} quiet {act} {label}>
      <OwnProof {account} focus bind:shown />
    </Asks>
  {:else}
    <button class="btn btn-quiet" onclick={() => (asking = true)}>{submit}…</button>
  {/if}
{/snippet}

{#if codes.length}
  <div class="bg-ochre-wash mb-3 rounded-lg p-4" role="status">
    <p class="mb-2">
      Keep these codes where you keep what is dear to you, and not on the same device. Each stands
      in for it once. <b class="font-semibold">They are not shown again.</b>
    </p>
    <ul class="codes grid grid-cols-2 gap-x-8 gap-y-1 tabular-nums">
      {#each codes as one (one)}<li>{one}</li>{/each}
    </ul>
    <button class="btn btn-quiet mt-3" onclick={() => (codes = [])}>I have kept them</button>
  </div>
{/if}
{#if account.factor_since}
  <p class="mb-3">
    Asked for since {instant(account.factor_since)}; {plural(
      account.recovery_codes,
      'recovery code is',
      'recovery codes are',
    )} left.
  </p>
  {@render behindPassword('Remove it', remove, 'Remove the second factor')}
{:else if proposed}
  <div class="flex gap-5">
    <img
      class="size-44 shrink-0 rounded bg-white"
      alt="The secret as a pattern, for the camera of your device"
      src="data:image/svg+xml;base64,{btoa(proposed.drawing)}"
    />
    <div class="grow">
      <p class="mb-2">
        Photograph this with the app on your device that makes codes, or type
        <code class="break-all">{proposed.secret}</code> into it. Then type what it shows.
      </p>
      <Asks submit="Ask for it from now on" act={confirm} label="Confirm the second factor">
        <Field
          title="Six digits"
          autocomplete="one-time-code"
          inputmode="numeric"
          required
          focus
          bind:value={code}
        />
      </Asks>
    </div>
  </div>
{:else}
  <p class="text-soft mb-3">
    None. With one, whoever knows your password also needs your device to sign in.
  </p>
  {@render behindPassword('Add one', add, 'Add a second factor')}
{/if}
