<!-- Which account a part goes to: one that is there, or a new one like the old. -->
<script lang="ts">
  import { getSheet } from '../sheet/sheet.svelte';
  import Dialog from '../ui/Dialog.svelte';
  import Picker from '../ui/Picker.svelte';
  import { getMoving } from './moving.svelte';
  import { Attempt } from '../api/attempt.svelte';
  import Problem from '../ui/Problem.svelte';

  let { choose, close }: { choose: (account: number) => void; close: () => void } = $props();
  const moving = getMoving();
  const sheet = getSheet();
  const row = $derived(moving.books.byId.get(moving.account));
  const targets = $derived(
    sheet.all.filter(
      ({ id, kind, status }) => kind === 'account' && status === 'active' && id !== moving.account,
    ),
  );
  let code = $state('');
  let name = $state('');
  const attempt = new Attempt();

  async function add(event: SubmitEvent) {
    event.preventDefault();
    if (!row) return;
    const { id: like, kind, class: of } = row;
    await attempt.run(async () => {
      choose(await moving.books.add({ code, name, kind, class: of, like }));
    });
  }
</script>

<Dialog title="Where do these lines go?" {close}>
  <Picker rows={targets} label="Account that takes the lines" choose={(row) => choose(row.id)} />
  <form class="border-rule mt-4 border-t pt-3" onsubmit={add}>
    <p class="mb-2">Or to a new account that takes over the settings of {row?.code} {row?.name}:</p>
    <div class="flex gap-2">
      <input
        class="input input-sm w-24"
        aria-label="Code"
        placeholder="Code"
        required
        bind:value={code}
      />
      <input
        class="input input-sm grow"
        aria-label="Name"
        placeholder="Name"
        required
        bind:value={name}
      />
      <button class="btn btn-sm btn-quiet">Add it</button>
    </div>
    <Problem of={attempt} class="mt-2" />
  </form>
</Dialog>
