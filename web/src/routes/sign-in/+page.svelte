<script lang="ts">
  import { goto } from '$app/navigation';
  import { api, answer, sentence } from '$lib/api/client';

  let email = $state('');
  let password = $state('');
  let problem = $state('');
  let busy = $state(false);

  async function signIn(event: SubmitEvent) {
    event.preventDefault();
    busy = true;
    problem = '';
    try {
      await answer(api.POST('/api/session', { body: { email, password } }));
      await goto('/');
    } catch (error) {
      problem = sentence(error);
    } finally {
      busy = false;
    }
  }
</script>

<svelte:head><title>Sign in · Zero Fold</title></svelte:head>
<main class="grid min-h-full place-items-center p-6">
  <div class="paper folded relative w-full max-w-3xl overflow-hidden md:grid md:grid-cols-2">
    <div class="p-9">
      <h1 class="text-3xl">Zero Fold</h1>
      <p class="text-soft mt-2 mb-7 leading-relaxed">
        Restructure a chart of accounts, and prove that nothing was lost.
      </p>
      <form class="grid gap-4" onsubmit={signIn}>
        <label class="grid gap-1">
          <span class="hint">E-mail address</span>
          <!-- svelte-ignore a11y_autofocus -->
          <input
            class="input w-full"
            type="email"
            autocomplete="username"
            required
            autofocus
            bind:value={email}
          />
        </label>
        <label class="grid gap-1">
          <span class="hint">Password</span>
          <input
            class="input w-full"
            type="password"
            autocomplete="current-password"
            required
            bind:value={password}
          />
        </label>
        {#if problem}<p class="text-error" role="alert">{problem}</p>{/if}
        <button class="btn btn-primary" disabled={busy}>{busy ? 'Signing in…' : 'Sign in'}</button>
      </form>
    </div>
    <div class="after hidden flex-col justify-center gap-5 p-9 md:flex" aria-hidden="true">
      <p class="text-soft flex justify-between">
        <span>5010 Locomotive coal</span><span>1,842 lines</span>
      </p>
      <p class="text-soft flex justify-between">
        <span>5012 Coal &amp; firewood</span><span>211 lines</span>
      </p>
      <p class="text-warning flex justify-between font-semibold">
        <span>↳ into 5110 Locomotive coal</span><span>2,053 lines</span>
      </p>
      <p class="stitch mt-2 flex items-baseline justify-between pt-4">
        <span class="hint">difference</span>
        <span class="text-success font-serif text-4xl font-semibold">0.00</span>
      </p>
    </div>
  </div>
</main>

<style>
  .after {
    background:
      var(--fold) left / 26px no-repeat,
      var(--color-base-200);
  }
</style>
