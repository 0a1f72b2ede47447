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
  const roles = $derived(invitations.some((one) => one.roles.length > 0));
</script>

<table class="ledger">
  <thead>
    <tr
      ><th>Invited</th><th>E-mail address</th>{#if roles}<th>As</th>{/if}<th>By</th><th>Until</th
      ><th></th></tr
    >
  </thead>
  <tbody>
    {#each invitations as one (one.email)}
      <tr>
        <td>{one.name}</td>
        <td>{one.email}</td>
        {#if roles}<td>{one.roles.join(', ')}</td>{/if}
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
