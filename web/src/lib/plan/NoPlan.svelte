<!-- The plan's place while none is open: how to begin, drafts to go on with, and what was applied, with its proofs. -->
<script lang="ts">
  import { getBooks } from '../books.svelte';
  import { instant, plural } from '../figures';
  import { Attempt } from '../api/attempt.svelte';
  import Problem from '../ui/Problem.svelte';

  const books = getBooks();
  const applied = $derived(books.plans.filter((plan) => plan.status === 'applied'));
  const ways: [string, string, string][] = [
    ['review', 'Look at what the review finds', 'and stage what it proposes, group by group.'],
    [
      'chart',
      'Type on the After side of the chart',
      'or paste codes and names from a spreadsheet.',
    ],
    ['renumber', 'Renumber by a rule', 'and see every code that it would change.'],
    [
      'import',
      'Import a crosswalk',
      'with the old codes in one column and the new ones in the next.',
    ],
    ['reports', 'Begin with the statements', 'and mark two lines that should be one.'],
  ];
  let name = $state('');
  const attempt = new Attempt();

  async function begin(event: SubmitEvent) {
    event.preventDefault();
    await attempt.run(async () => {
      await books.begin(name);
    });
  }
</script>

<h1 class="text-2xl">No plan is open</h1>
<p class="text-soft mt-1 max-w-2xl">
  A plan says what the chart should become. Nothing in the books changes until it is applied, and
  the status bar shows at every step what it would do.
</p>
<form class="mt-4 flex items-center gap-2" onsubmit={begin}>
  <input
    class="input w-80"
    aria-label="Name of the plan"
    placeholder="What it is for"
    maxlength="120"
    required
    bind:value={name}
  />
  <button class="btn btn-primary">Begin a plan</button>
</form>
<Problem of={attempt} class="mt-2" />
<h2 class="mt-7 mb-1 text-lg">Or begin with the first change</h2>
<ul>
  {#each ways as [to, words, more] (to)}
    <li class="py-1">
      <a class="link font-medium" href="/books/{books.id}/{to}">{words}</a>
      <span class="text-soft">{more}</span>
    </li>
  {/each}
</ul>
{#if books.drafts.length}
  <h2 class="mt-7 mb-1 text-lg">Drafts to go on with</h2>
  <table class="ledger max-w-3xl">
    <tbody>
      {#each books.drafts as draft (draft.id)}
        <tr>
          <td><button class="link" onclick={() => books.open(draft.id)}>{draft.name}</button></td>
          <td class="text-soft">{draft.person}, begun {instant(draft.created_at)}</td>
          <td class="num">{plural(draft.accounts, 'account')}</td>
        </tr>
      {/each}
    </tbody>
  </table>
{/if}
<h2 class="mt-7 mb-1 text-lg">Applied so far</h2>
{#if applied.length}
  <table class="ledger max-w-3xl">
    <tbody>
      {#each applied as plan (plan.id)}
        <tr>
          <td>{plan.name}</td>
          <td class="text-soft"
            >{plan.person}, {instant(plan.applied_at ?? plan.created_at)}{plan.undone
              ? ' · undone since'
              : ''}</td
          >
          <td class="num">{plural(plan.accounts, 'account')}</td>
          <td class="num">
            {#if plan.application}<a class="link" href="/books/{books.id}/proof/{plan.application}"
                >Its proof</a
              >{/if}
          </td>
        </tr>
      {/each}
    </tbody>
  </table>
{:else}<p class="text-soft">
    Nothing yet. The proof of every plan that is applied will stand here.
  </p>{/if}
