<script lang="ts">
  import { goto } from '$app/navigation';
  import { api, answer, Refusal } from '$lib/api/client';
  import { queries } from '$lib/api/queries';
  import Folded from '$lib/start/Folded.svelte';
  import Asks from '$lib/ui/Asks.svelte';
  import Field from '$lib/ui/Field.svelte';

  let email = $state('');
  let password = $state('');
  let code = $state('');
  /** Whether the password was right and a code is asked for. */
  let wantsCode = $state(false);

  async function signIn() {
    try {
      await answer(api.POST('/api/session', { body: { email, password, code: code || null } }));
    } catch (error) {
      if (!(error instanceof Refusal && error.problem.code === 'code_wanted')) throw error;
      wantsCode = true;
      return;
    }
    // Whoever was here before may have asked for other things.
    queries.clear();
    await goto('/');
  }
</script>

{#if wantsCode}
  <Folded
    title="One more thing"
    about="Your account has a second factor. Type the six digits that your device shows now."
  >
    <Asks submit="Sign in" act={signIn}>
      <Field
        title="Code"
        hint="Without the device, type one of your recovery codes; each works once."
        autocomplete="one-time-code"
        required
        focus
        bind:value={code}
      />
    </Asks>
    <p class="mt-5">
      <button class="link" onclick={() => ((wantsCode = false), (code = ''))}
        >Sign in as somebody else</button
      >
    </p>
  </Folded>
{:else}
  <Folded
    title="Zero Fold"
    about="Restructure a chart of accounts, and prove that nothing was lost."
  >
    <Asks submit="Sign in" act={signIn}>
      <Field
        title="E-mail address"
        type="email"
        autocomplete="username"
        required
        focus
        bind:value={email}
      />
      <Field
        title="Password"
        type="password"
        autocomplete="current-password"
        required
        bind:value={password}
      />
    </Asks>
    <p class="mt-5"><a class="link" href="/forgotten">Password forgotten?</a></p>
  </Folded>
{/if}
