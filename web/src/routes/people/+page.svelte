<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, answer, type Schemas } from '$lib/api/client';
  import { queries } from '$lib/api/queries';
  import { instant, plural } from '$lib/figures';
  import Invitations from '$lib/people/Invitations.svelte';
  import PersonMenu from '$lib/people/PersonMenu.svelte';
  import Front from '$lib/start/Front.svelte';
  import Asks from '$lib/ui/Asks.svelte';
  import Dialog from '$lib/ui/Dialog.svelte';
  import Field from '$lib/ui/Field.svelte';
  import LetterSent from '$lib/ui/LetterSent.svelte';
  import { Attempt } from '$lib/api/attempt.svelte';
  import Problem from '$lib/ui/Problem.svelte';

  const listed = createQuery(() => ({
    queryKey: ['people'],
    queryFn: ({ signal }) => answer(api.GET('/api/people', { signal })),
  }));
  const people = $derived(listed.data?.people ?? []);
  const attempt = new Attempt();
  let inviting = $state(false);
  let invitation = $state({ email: '', name: '', administrator: false });
  let sent = $state.raw<Schemas['LetterSent'] | null>(null);
  /** Whom books without an owner are to be given to. */
  let owners = $state<Record<number, number>>({});
  let removing = $state.raw<Schemas['PersonView'] | null>(null);

  const again = () => queries.invalidateQueries({ queryKey: ['people'] });

  async function invite() {
    sent = await answer(api.POST('/api/people/invitations', { body: invitation }));
    inviting = false;
    invitation = { email: '', name: '', administrator: false };
    await again();
  }

  async function act(doing: Promise<unknown>) {
    await attempt.run(async () => {
      await doing;
      await again();
    });
  }

  const path = (person: Schemas['PersonView']) => ({ params: { path: { person: person.id } } });
  const administer = (person: Schemas['PersonView']) =>
    act(
      answer(
        api.PUT('/api/people/{person}/administrator', {
          ...path(person),
          body: { administrator: !person.administrator },
        }),
      ),
    );
  const withoutFactor = (person: Schemas['PersonView']) =>
    act(answer(api.DELETE('/api/people/{person}/factor', path(person))));
  const withdraw = (email: string) =>
    act(answer(api.POST('/api/people/invitations/withdrawal', { body: { email } })));
  const link = (person: Schemas['PersonView']) =>
    act(
      answer(api.POST('/api/people/{person}/password-link', path(person))).then(
        (letter) => (sent = letter),
      ),
    );
  const giveBooks = (books: number, person: number | undefined) =>
    person &&
    act(
      answer(
        api.POST('/api/people/{person}/books', { params: { path: { person } }, body: { books } }),
      ),
    );

  async function remove() {
    if (!removing) return;
    await answer(api.DELETE('/api/people/{person}', path(removing)));
    removing = null;
    await again();
  }
</script>

<Front title="People">
  <main class="paper grow overflow-auto px-11 py-6">
    <div class="flex max-w-5xl items-end justify-between">
      <div>
        <h1 class="text-2xl">People</h1>
        <p class="text-soft mt-1 mb-4">
          Who can sign in here. Which books they see is said in the settings of each set of books.
        </p>
      </div>
      <button class="btn btn-primary mb-4" onclick={() => (inviting = true)}>Invite somebody</button
      >
    </div>
    <div class="max-w-5xl">
      <Problem asked={listed.error} />
      <Problem of={attempt} class="mb-2" />
      {#if sent}<LetterSent {sent} done={() => (sent = null)} />{/if}
      {#if listed.data?.without_owner.length}
        <section class="mb-6" aria-label="Books without an owner">
          <h2 class="mb-1 text-lg">Books without an owner</h2>
          <p class="text-soft mb-2">
            Nobody answers for them any more. Who is given them sees everything in them; it stands
            in both trails.
          </p>
          <table class="ledger">
            <tbody>
              {#each listed.data.without_owner as one (one.id)}
                <tr>
                  <td>{one.name}</td>
                  <td class="num">
                    <select
                      class="select select-sm w-56"
                      aria-label="New owner"
                      bind:value={owners[one.id]}
                    >
                      <option value={undefined}>choose somebody</option>
                      {#each people as person (person.id)}
                        <option value={person.id}>{person.name}</option>
                      {/each}
                    </select>
                    <button
                      class="btn btn-sm btn-quiet"
                      disabled={!owners[one.id]}
                      onclick={() => giveBooks(one.id, owners[one.id])}>Make them the owner</button
                    >
                  </td>
                </tr>
              {/each}
            </tbody>
          </table>
        </section>
      {/if}
      <table class="ledger">
        <thead>
          <tr>
            <th>Name</th><th>E-mail address</th><th>Administers</th><th>Second factor</th>
            <th>Member of</th><th>Last seen</th><th></th>
          </tr>
        </thead>
        <tbody>
          {#each people as person (person.id)}
            <tr>
              <td>{person.name}</td>
              <td>{person.email}</td>
              <td>{person.administrator ? 'yes' : ''}</td>
              <td class={person.factor ? '' : 'text-soft'}>{person.factor ? 'yes' : 'none'}</td>
              <td>{person.books ? plural(person.books, 'set of books', 'sets of books') : ''}</td>
              <td class="text-soft whitespace-nowrap"
                >{person.seen_at ? instant(person.seen_at) : 'never'}</td
              >
              <td class="num">
                <PersonMenu
                  {person}
                  administer={() => administer(person)}
                  link={() => link(person)}
                  withoutFactor={() => withoutFactor(person)}
                  remove={() => (removing = person)}
                />
              </td>
            </tr>
          {:else}
            <tr><td colspan="7" class="text-soft">Reading…</td></tr>
          {/each}
        </tbody>
      </table>
      {#if listed.data?.invitations.length}
        <h2 class="mt-7 mb-2 text-lg">Invited</h2>
        <Invitations invitations={listed.data.invitations} {withdraw} />
      {/if}
    </div>
  </main>
</Front>

{#if inviting}
  <Dialog title="Invite somebody" close={() => (inviting = false)}>
    <Asks submit="Send the invitation" act={invite}>
      <Field title="Name" required focus bind:value={invitation.name} />
      <Field title="E-mail address" type="email" required bind:value={invitation.email} />
      <label class="flex items-start gap-2">
        <input type="checkbox" class="checkbox mt-0.5" bind:checked={invitation.administrator} />
        <span>
          Administers this server: lets people in and opens new books
          <span class="hint block">That alone opens no books to them.</span>
        </span>
      </label>
    </Asks>
  </Dialog>
{/if}
{#if removing}
  <Dialog title="Remove {removing.name}?" close={() => (removing = null)}>
    <Asks submit="Remove" act={remove}>
      <p>
        They sign in no more and are a member of no books. What they did stays in the trails under
        their name.
      </p>
    </Asks>
  </Dialog>
{/if}
