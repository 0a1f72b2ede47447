<!-- Where a link that is followed once leads. What it shows stands behind the # of the address. -->
<script lang="ts">
  import { goto } from '$app/navigation';
  import { page } from '$app/state';
  import { Attempt } from '$lib/api/attempt.svelte';
  import { api, answer, type Schemas } from '$lib/api/client';
  import { queries } from '$lib/api/queries';
  import { instant } from '$lib/figures';
  import Folded from '$lib/start/Folded.svelte';
  import Asks from '$lib/ui/Asks.svelte';
  import Field from '$lib/ui/Field.svelte';

  const shown = page.url.hash.slice(1);
  let link = $state.raw<Schemas['LinkView'] | null>(null);
  const looking = new Attempt();
  let name = $state('');
  let email = $state('');
  let password = $state('');

  const TITLES = {
    first: 'Welcome',
    invitation: 'Welcome',
    password: 'A new password',
    address: 'Your new address',
  } as const;
  const SUBMIT = {
    first: 'Come in',
    invitation: 'Come in',
    password: 'Take this password',
    address: 'Confirm it',
  } as const;
  const about = $derived.by(() => {
    switch (link?.purpose) {
      case 'first':
        return 'You are the first person here. You will invite others and open books; you see only books that you are a member of.';
      case 'invitation':
        return `${link.invited_by ?? 'Somebody'} invites you. Choose a password and you are in.`;
      case 'password':
        return 'You will be signed out wherever you are signed in.';
      case 'address':
        return 'Confirm that the letter came to you, and you sign in with this address from now on.';
      default:
        return '';
    }
  });

  void looking.run(async () => {
    link = await answer(api.POST('/api/link', { body: { link: shown } }));
    name = link.name ?? '';
    email = link.email ?? '';
  });

  async function follow() {
    if (link?.purpose === 'address') {
      await answer(api.POST('/api/link/confirm', { body: { link: shown } }));
      await queries.invalidateQueries();
      await goto('/account', { replaceState: true });
      return;
    }
    await answer(api.POST('/api/link/follow', { body: { link: shown, name, email, password } }));
    queries.clear();
    await goto('/', { replaceState: true });
  }
</script>

{#if looking.problem}
  <Folded title="This link is closed" about={looking.problem}>
    <a class="link" href="/sign-in">To signing in</a>
  </Folded>
{:else if link}
  <Folded title={TITLES[link.purpose]} {about}>
    <Asks submit={SUBMIT[link.purpose]} act={follow}>
      {#if link.purpose === 'first'}
        <Field
          title="E-mail address"
          type="email"
          autocomplete="username"
          required
          focus
          bind:value={email}
        />
      {:else}
        <p>
          <span class="hint block">
            {link.purpose === 'address' ? 'You will sign in as' : 'You sign in as'}
          </span>
          {link.email}
        </p>
      {/if}
      {#if link.purpose === 'first' || link.purpose === 'invitation'}
        <Field title="Name, as others see it" autocomplete="name" required bind:value={name} />
      {/if}
      {#if link.purpose !== 'address'}
        <Field
          title="Password"
          hint="At least 12 characters; a few words that do not belong together are easily kept in mind."
          type="password"
          autocomplete="new-password"
          required
          bind:value={password}
        />
      {/if}
    </Asks>
    <p class="hint mt-5">This link can be followed once, until {instant(link.expires_at)}.</p>
  </Folded>
{/if}
