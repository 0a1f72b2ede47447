<!-- Who was invited and has not come yet. -->
<script lang="ts">
  import type { Schemas } from '../api/client';
  import { dayOf } from '../figures';

  let {
    invitations,
    withdraw,
  }: {
    invitations: Schemas['InvitationView'][];
    withdraw: ((email: string) => unknown) | null;
  } = $props();
  /** What an invitation gives, in words. */
  function gives(one: Schemas['InvitationView']): string {
    const roles = one.roles.join(', ') + (one.plan ? ` of “${one.plan}”` : '');
    const all = [roles, one.administrator ? 'administers this server' : ''].filter(Boolean);
    const until = one.until ? ` until ${dayOf(one.until)}` : '';
    return (all.join('; ') || 'signs in; no books yet') + until;
  }
</script>

<table class="ledger">
  <thead>
    <tr
      ><th>Invited</th><th>E-mail address</th><th>Gives</th><th>By</th><th>Open until</th><th
      ></th></tr
    >
  </thead>
  <tbody>
    {#each invitations as one (one.email)}
      <tr>
        <td>{one.name}</td>
        <td>{one.email}</td>
        <td>{gives(one)}</td>
        <td>{one.invited_by}</td>
        <td class="text-soft whitespace-nowrap">{dayOf(one.expires_at)}</td>
        <td class="num">
          {#if withdraw}
            <button class="link" onclick={() => withdraw(one.email)}>Withdraw</button>
          {/if}
        </td>
      </tr>
    {/each}
  </tbody>
</table>
