<!-- Lets somebody in to the books, or changes as what they are there. -->
<script lang="ts">
  import { untrack } from 'svelte';
  import { answer, api, Refusal, type Schemas } from '../api/client';
  import Asks from '../ui/Asks.svelte';
  import Dialog from '../ui/Dialog.svelte';
  import Field from '../ui/Field.svelte';
  import { getSettings } from './settings.svelte';

  let {
    member,
    close,
    done,
  }: {
    member: Schemas['MemberView'] | null;
    close: () => void;
    done: (admitted: Schemas['MemberAdded']) => unknown;
  } = $props();
  const books = getSettings().books;
  // The dialog is about one member for as long as it is open.
  const given = untrack(() => member);
  let email = $state(given?.email ?? '');
  let name = $state('');
  let roles = $state<Schemas['Role'][]>(given?.roles ?? ['preparer']);
  let plan = $state<number | null>(given?.plan ?? books.drafts[0]?.id ?? null);
  let until = $state(given?.until?.slice(0, 10) ?? '');
  /** Whether nobody signs in with this address yet. */
  let unknown = $state(false);

  const ROLES: [Schemas['Role'], string][] = [
    ['owner', 'sets rules, locks periods, adds members; answers for the books'],
    ['reviewer', 'approves plans: applies, undoes, overrides stops'],
    ['preparer', 'brings files in and prepares plans'],
    ['reader', 'looks, and takes files away'],
    ['guest', 'sees one plan, for a time'],
  ];
  const guest = $derived(roles.includes('guest'));

  /** A guest is nothing else. */
  function toggle(role: Schemas['Role']) {
    if (roles.includes(role)) roles = roles.filter((other) => other !== role);
    else if (role === 'guest') roles = ['guest'];
    else roles = [...roles.filter((other) => other !== 'guest'), role];
  }

  async function admit() {
    const body = {
      email,
      name: unknown ? name : null,
      roles,
      plan: guest ? plan : null,
      until: until || null,
    };
    try {
      const params = { path: { books: books.id } };
      await done(await answer(api.PUT('/api/books/{books}/members', { params, body })));
    } catch (error) {
      const about = error instanceof Refusal ? error.problem.refused?.[0]?.field : '';
      if (about !== 'name' || unknown) throw error;
      unknown = true;
    }
  }
</script>

<Dialog title={member ? member.name : 'Add a member'} {close}>
  <Asks submit={unknown ? 'Invite them' : member ? 'Change' : 'Add'} act={admit}>
    {#if !member}
      <Field title="E-mail address" type="email" required focus bind:value={email} />
      {#if unknown}
        <p class="bg-ochre-wash rounded px-3 py-2" role="status">
          Nobody signs in with this address yet. With a name, they are invited by a letter.
        </p>
        <Field title="Name" required focus bind:value={name} />
      {/if}
    {/if}
    <fieldset class="grid gap-2">
      <legend class="hint mb-1">As</legend>
      {#each ROLES as [role, words] (role)}
        <label class="flex items-start gap-2">
          <input
            type="checkbox"
            class="checkbox mt-0.5"
            checked={roles.includes(role)}
            onchange={() => toggle(role)}
          />
          <span>{role} <span class="hint block leading-snug">{words}</span></span>
        </label>
      {/each}
    </fieldset>
    {#if guest}
      <label class="grid gap-1">
        <span class="hint">The plan</span>
        <select class="select w-full" bind:value={plan}>
          {#each books.drafts as draft (draft.id)}<option value={draft.id}>{draft.name}</option
            >{/each}
        </select>
      </label>
    {/if}
    <Field
      title={guest ? 'Until the end of' : 'Until the end of (left empty: for good)'}
      type="date"
      required={guest}
      bind:value={until}
    />
  </Asks>
</Dialog>
