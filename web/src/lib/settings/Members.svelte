<!-- Who is in the books, and as what. -->
<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { answer, api, type Schemas } from '../api/client';
  import { queries } from '../api/queries';
  import { dayOf } from '../figures';
  import Invitations from '../people/Invitations.svelte';
  import LetterSent from '../ui/LetterSent.svelte';
  import MemberDialog from './MemberDialog.svelte';
  import { getSettings } from './settings.svelte';
  import { Attempt } from '../api/attempt.svelte';
  import Problem from '../ui/Problem.svelte';

  const settings = getSettings();
  const books = settings.books;
  const params = { path: { books: books.id } };
  const listed = createQuery(() => ({
    queryKey: ['members', books.id],
    queryFn: ({ signal }) => answer(api.GET('/api/books/{books}/members', { params, signal })),
  }));
  let admitting = $state.raw<Schemas['MemberView'] | 'new' | null>(null);
  let sent = $state.raw<Schemas['LetterSent'] | null>(null);
  const attempt = new Attempt();
  const manages = $derived(settings.may('manage_members'));
  const again = () => queries.invalidateQueries({ queryKey: ['members', books.id] });

  async function act(doing: Promise<unknown>) {
    await attempt.run(async () => {
      await doing;
      await again();
    });
  }
  const letOut = (person: number) =>
    act(
      answer(
        api.DELETE('/api/books/{books}/members/{person}', {
          params: { path: { books: books.id, person } },
        }),
      ),
    );
  const withdraw = (email: string) =>
    act(answer(api.POST('/api/books/{books}/members/withdrawal', { params, body: { email } })));

  async function done(admitted: Schemas['MemberAdded']) {
    admitting = null;
    sent = admitted.invited ?? null;
    await again();
  }
</script>

<Problem of={attempt} asked={listed.error} class="mb-2" />
{#if sent}<LetterSent {sent} done={() => (sent = null)} />{/if}
<table class="ledger">
  <thead><tr><th>Name</th><th>E-mail address</th><th>As</th><th>Until</th><th></th></tr></thead>
  <tbody>
    {#each listed.data?.members ?? [] as member (member.person)}
      <tr class={member.over ? 'text-soft' : ''}>
        <td>{member.name}</td>
        <td>{member.email}</td>
        <td
          >{member.roles.join(', ')}{#if member.plan_name}<span class="hint">
              of “{member.plan_name}”</span
            >{/if}</td
        >
        <td class="whitespace-nowrap">
          {member.until ? dayOf(member.until) : ''}{member.over ? ', over' : ''}
        </td>
        <td class="num">
          {#if manages}
            <button class="link mr-3" onclick={() => (admitting = member)}>Change</button>
            <button class="link" onclick={() => letOut(member.person)}>Remove</button>
          {/if}
        </td>
      </tr>
    {:else}<tr><td colspan="5" class="text-soft">Reading…</td></tr>{/each}
  </tbody>
</table>
{#if manages}
  <button class="btn btn-sm btn-quiet mt-3" onclick={() => (admitting = 'new')}
    >Add a member…</button
  >
{/if}
{#if listed.data?.invitations.length}
  <h3 class="mt-5 mb-1">Invited</h3>
  <Invitations invitations={listed.data.invitations} withdraw={manages ? withdraw : null} />
{/if}
{#if admitting}
  <MemberDialog
    member={admitting === 'new' ? null : admitting}
    close={() => (admitting = null)}
    {done}
  />
{/if}
