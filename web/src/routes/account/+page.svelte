<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, answer, type Schemas } from '$lib/api/client';
  import { queries } from '$lib/api/queries';
  import OwnProof from '$lib/people/OwnProof.svelte';
  import SecondFactor from '$lib/people/SecondFactor.svelte';
  import Sessions from '$lib/people/Sessions.svelte';
  import Front from '$lib/start/Front.svelte';
  import Asks from '$lib/ui/Asks.svelte';
  import Field from '$lib/ui/Field.svelte';
  import Problem from '$lib/ui/Problem.svelte';

  const asked = createQuery(() => ({
    queryKey: ['account'],
    queryFn: ({ signal }) => answer(api.GET('/api/account', { signal })),
  }));
  const account = $derived(asked.data);

  let name = $state('');
  let email = $state('');
  const nothing = () => ({ password: '', code: '' });
  let forEmail = $state(nothing());
  let forPassword = $state(nothing());
  let newPassword = $state('');
  let done = $state('');
  $effect(() => {
    if (account) [name, email] = [account.name, account.email];
  });

  async function again(said = '') {
    done = said;
    await queries.invalidateQueries({ queryKey: ['account'] });
    await queries.invalidateQueries({ queryKey: ['session'] });
  }

  async function rename() {
    await answer(api.PUT('/api/account/name', { body: { name } }));
    await again('Your name was changed.');
  }

  async function readdress() {
    await answer(api.PUT('/api/account/email', { body: { email, ...forEmail } }));
    const to = email;
    // Until the letter is answered the address is the one so far.
    [forEmail, email] = [nothing(), account?.email ?? ''];
    await again(`A letter went to ${to}. Once you follow its link, you sign in with that address.`);
  }

  async function changePassword() {
    const body = { ...forPassword, new_password: newPassword };
    await answer(api.PUT('/api/account/password', { body }));
    [forPassword, newPassword] = [nothing(), ''];
    await again('Your password was changed, and you were signed out everywhere else.');
  }

  const DATES: [Schemas['DateForm'], string][] = [
    ['day_month', '31 January 2026'],
    ['month_day', 'January 31, 2026'],
    ['points', '31.01.2026'],
    ['iso', '2026-01-31'],
  ];
  const NUMBERS: [Schemas['NumberForm'], string][] = [
    ['comma_point', '1,234.56'],
    ['point_comma', '1.234,56'],
    ['space_comma', '1 234,56'],
    ['apostrophe_point', '1’234.56'],
  ];

  async function write(forms: Partial<Schemas['FormsForm']>) {
    if (!account) return;
    const body = { dates: account.dates, numbers: account.numbers, ...forms };
    await answer(api.PUT('/api/account/forms', { body }));
    await again();
  }
</script>

<Front title="Your account">
  <main class="paper grow overflow-auto px-11 py-6">
    <h1 class="text-2xl">Your account</h1>
    <Problem asked={asked.error} class="mt-2" />
    {#if done}<p class="text-success mt-2" role="status">{done}</p>{/if}
    {#if account}
      <div class="mt-5 grid max-w-5xl grid-cols-2 gap-x-16 gap-y-9 max-lg:grid-cols-1">
        <section aria-label="Name">
          <h2 class="mb-2 text-lg">Name</h2>
          <Asks submit="Change" quiet act={rename}>
            <Field title="As others see it" autocomplete="name" required bind:value={name} />
          </Asks>
        </section>
        <section aria-label="E-mail address">
          <h2 class="mb-2 text-lg">E-mail address</h2>
          <Asks submit="Change" quiet act={readdress}>
            <Field
              title="You sign in with it"
              type="email"
              autocomplete="email"
              required
              bind:value={email}
            />
            {#if email !== account.email}
              <OwnProof {account} bind:shown={forEmail} />
            {/if}
          </Asks>
        </section>
        <section aria-label="Password">
          <h2 class="mb-2 text-lg">Password</h2>
          <Asks submit="Change" quiet act={changePassword}>
            <OwnProof {account} title="The one so far" bind:shown={forPassword} />
            <Field
              title="The one from now on"
              hint="At least 12 characters. Wherever else you are signed in, you will not be."
              type="password"
              autocomplete="new-password"
              required
              bind:value={newPassword}
            />
          </Asks>
        </section>
        <div class="grid content-start gap-9">
          <section aria-label="Second factor">
            <h2 class="mb-2 text-lg">Second factor</h2>
            <SecondFactor {account} changed={() => again()} />
          </section>
          <section aria-label="Dates and numbers">
            <h2 class="mb-2 text-lg">Dates and numbers</h2>
            <p class="hint mb-3">
              How the screen writes them for you. Files keep forms of their own.
            </p>
            <div class="flex gap-4">
              <label class="grid gap-1">
                <span class="hint">Dates</span>
                <select
                  class="select"
                  value={account.dates}
                  onchange={(e) => write({ dates: e.currentTarget.value as Schemas['DateForm'] })}
                >
                  {#each DATES as [key, words] (key)}<option value={key}>{words}</option>{/each}
                </select>
              </label>
              <label class="grid gap-1">
                <span class="hint">Numbers</span>
                <select
                  class="select"
                  value={account.numbers}
                  onchange={(e) =>
                    write({ numbers: e.currentTarget.value as Schemas['NumberForm'] })}
                >
                  {#each NUMBERS as [key, words] (key)}<option value={key}>{words}</option>{/each}
                </select>
              </label>
            </div>
          </section>
        </div>
        <section class="col-span-full" aria-label="Sessions">
          <h2 class="mb-2 text-lg">Where you are signed in</h2>
          <Sessions sessions={account.sessions} changed={() => again()} />
        </section>
      </div>
    {:else if !asked.error}<p class="text-soft mt-3">Reading…</p>{/if}
  </main>
</Front>
