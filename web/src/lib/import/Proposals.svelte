<!-- What a chart adds beside what stands in it: codes that are proposed, each to be typed over, lines of the
     statements, and control roles. -->
<script lang="ts">
  import type { Schemas } from '../api/client';
  import { count, plural } from '../figures';
  import EditableText from '../ui/EditableText.svelte';
  import { placeWords } from './place';
  import type { WaitingFile } from './waiting.svelte';

  let { file, accounts }: { file: WaitingFile; accounts: Schemas['AccountsView'] } = $props();

  type Item = Schemas['NewItemView'];

  function settle(wording: string, of: Item['class'], section: NonNullable<Item['nearest']>) {
    void file.choose((now) => ({
      settled: { ...now.settled, [wording]: { class: of, section } },
    }));
  }

  const given = $derived(file.looked!.choices.options.roles);
  function giveRoles(roles: boolean) {
    void file.choose((now) => ({ options: { ...now.options, roles } }));
  }

  function give(row: number, code: string) {
    void file.choose((now) => ({ answers: { ...now.answers, [`code:${row}`]: code } }));
  }
</script>

{#if accounts.proposed}
  <div class="mt-6 mb-2 flex items-baseline gap-4">
    <h2 class="text-lg">{plural(accounts.proposed, 'code')} proposed</h2>
    <span class="hint grow">
      The file has none for these. Enter or a double click types another; a proposed code stays
      marked until somebody gives one.
    </span>
  </div>
  <table class="ledger table-fixed">
    <colgroup>
      <col class={file.looked!.together ? 'w-40' : 'w-14'} /><col class="w-28" /><col /><col
        class="w-28"
      />
    </colgroup>
    <thead><tr><th class="num">Row</th><th>Code</th><th>Name</th><th>Class</th></tr></thead>
    <tbody>
      {#each accounts.proposals as { row, place, code, name, class: of, above } (code)}
        <tr>
          <td class="hint num truncate">{placeWords(place)}</td>
          <td class="proposed p-0!">
            <EditableText
              text={code}
              label="Row {row}, proposed code {code}"
              busy={file.busy !== ''}
              commit={(typed) => give(row, typed)}
            />
          </td>
          <td
            >{#if above}<span class="text-soft">{above} ›</span>{/if}
            {name}</td
          >
          <td class="text-soft">{of}</td>
        </tr>
      {/each}
    </tbody>
  </table>
  {#if accounts.proposed > accounts.proposals.length}
    <p class="hint mt-2">and {count(accounts.proposed - accounts.proposals.length)} more</p>
  {/if}
{/if}
{#if accounts.new_items.length}
  <h2 class="mt-6 mb-1 text-lg">
    {plural(accounts.new_items.length, 'statement item')} added
  </h2>
  <p class="hint mb-2">
    Captions of the file that are none of the standard items, under their class.
  </p>
  <table class="ledger table-fixed">
    <colgroup><col class="w-28" /><col /><col class="w-28" /><col class="w-56" /></colgroup>
    <thead>
      <tr><th>Class</th><th>Item</th><th class="num">Accounts</th><th>Or the standard item</th></tr>
    </thead>
    <tbody>
      {#each accounts.new_items as { class: of, name, accounts: under, nearest } (of + name)}
        <tr>
          <td class="text-soft">{of}</td>
          <td>{name}</td>
          <td class="num">{count(under)}</td>
          <td>
            {#if nearest}
              <button
                class="link"
                disabled={file.busy !== ''}
                onclick={() => settle(name, of, nearest)}>{nearest.replaceAll('_', ' ')}</button
              >
            {:else}<span class="hint">none is like it</span>{/if}
          </td>
        </tr>
      {/each}
    </tbody>
  </table>
{/if}
{#if accounts.proposed_roles}
  <div class="mt-6 mb-2 flex items-baseline gap-4">
    <h2 class="text-lg">{plural(accounts.proposed_roles, 'control account')} by their names</h2>
    <span class="hint grow">
      {#if given}They come in with these roles.{:else}
        The books rely on such accounts: merging or deleting one is warned of. None has its role
        before you say so.
      {/if}
    </span>
    <button class="btn btn-sm" disabled={file.busy !== ''} onclick={() => giveRoles(!given)}>
      {given ? 'Come in without roles' : 'Give them these roles'}
    </button>
  </div>
  <table class="ledger table-fixed">
    <colgroup><col class="w-28" /><col /><col class="w-56" /></colgroup>
    <thead><tr><th>Code</th><th>Name</th><th>Role</th></tr></thead>
    <tbody>
      {#each accounts.roles as { code, name, role } (code)}
        <tr>
          <td class="font-medium">{code}</td>
          <td>{name}</td>
          <td class="text-soft">{role.replaceAll('_', ' ')}</td>
        </tr>
      {/each}
    </tbody>
  </table>
{/if}

<style>
  .proposed {
    font-style: italic;
    color: var(--color-warning);
  }
</style>
