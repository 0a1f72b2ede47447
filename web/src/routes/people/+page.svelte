<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, answer, sentence, type Schemas } from '$lib/api/client';
  import { queries } from '$lib/api/queries';
  import { instant, plural } from '$lib/figures';
  import Invitations from '$lib/people/Invitations.svelte';
  import PersonMenu from '$lib/people/PersonMenu.svelte';
  import Front from '$lib/start/Front.svelte';
  import Asks from '$lib/ui/Asks.svelte';
  import Dialog from '$lib/ui/Dialog.svelte';
  import Field from '$lib/ui/Field.svelte';
  import Handed from '$lib/ui/Handed.svelte';

  const listed = createQuery(() => ({
    queryKey: ['people'],
    queryFn: ({ signal }) => answer(api.GET('/api/people', { signal })),
  }));
  const people = $derived(listed.data?.people ?? []);
  let problem = $state('');
  let inviting = $state(false);
  let invitation = $state({ email: '', name: '', administrator: false });
  let handed = $state.raw<{ to: string; handed: Schemas['HandedOver']; sent: boolean } | null>(
    null,
  );
  let removing = $state.raw<Schemas['PersonView'] | null>(null);

  const again = () => queries.invalidateQueries({ queryKey: ['people'] });

  async function invite() {
    const link = await answer(api.POST('/api/people/invitations', { body: invitation }));
    handed = { to: invitation.email, handed: link, sent: true };
    inviting = false;
    invitation = { email: '', name: '', administrator: false };
    await again();
  }

  async function act(doing: Promise<unknown>) {
    problem = '';
    try {
      await doing;
      await again();
    } catch (error) {
      problem = sentence(error);
    }
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
        (link) => (handed = { to: person.email, handed: link, sent: false }),
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
      {#if listed.error}<p class="text-error" role="alert">{sentence(listed.error)}</p>{/if}
      {#if problem}<p class="text-error mb-2" role="alert">{problem}</p>{/if}
      {#if handed}
        <Handed {...handed} done={() => (handed = null)} />
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
