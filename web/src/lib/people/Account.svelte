<!-- Who is signed in, the light, and the way out. -->
<script lang="ts">
  import { goto } from '$app/navigation';
  import { api, answer, type Schemas } from '../api/client';
  import { queries } from '../api/queries';
  import { getCommands, type Command } from '../commands/commands.svelte';
  import { DropdownMenu } from 'bits-ui';
  import Menu from '../ui/Menu.svelte';

  let { me }: { me: Schemas['Me'] } = $props();
  const name = $derived(me.name);
  const initials = $derived(
    name
      .split(' ')
      .map((word) => word[0])
      .join('')
      .slice(0, 2),
  );

  async function signOut() {
    await answer(api.DELETE('/api/session'));
    // Whoever signs in next on this machine is shown nothing of what was asked for here.
    queries.clear();
    await goto('/sign-in');
  }

  function light(theme: string) {
    if (theme) localStorage.setItem('theme', theme);
    else localStorage.removeItem('theme');
    applyTheme();
  }

  function applyTheme() {
    const theme = localStorage.getItem('theme');
    if (theme) document.documentElement.dataset.theme = theme;
    else delete document.documentElement.dataset.theme;
  }
  // The choice of light is kept in this browser and applied once the page is there.
  $effect(applyTheme);

  const lights: Command[] = [
    { name: 'Day light', words: 'theme bright', run: () => light('paper') },
    { name: 'Lamp light', words: 'theme dark', run: () => light('lamp') },
    { name: 'Light as the computer has it', words: 'theme', run: () => light('') },
  ];
  const ways = $derived<Command[]>([
    { name: 'All books', run: () => goto('/') },
    ...(me.administrator ? [{ name: 'People', run: () => goto('/people') }] : []),
    { name: 'Your account', words: 'password sessions forms', run: () => goto('/account') },
    { name: 'Sign out', run: signOut },
  ]);
  getCommands().offer({
    title: 'You',
    rank: 4,
    get commands() {
      return [...ways, ...lights];
    },
  });
</script>

<Menu
  align="end"
  width="w-52"
  label="{initials}: {name}, account and light"
  summaryClass="bg-plum-wash text-primary grid size-8 place-items-center rounded-full text-xs font-semibold"
>
  {#snippet summary()}{initials}{/snippet}
  <p class="hint px-2 pb-2">{name}</p>
  {#each lights as { name, run } (name)}
    <DropdownMenu.Item class="menu-row" onSelect={run}>{name}</DropdownMenu.Item>
  {/each}
  <DropdownMenu.Separator class="border-rule my-1 border-t" />
  {#each ways as { name, run } (name)}
    <DropdownMenu.Item class="menu-row" onSelect={run}>{name}</DropdownMenu.Item>
  {/each}
</Menu>
