<!-- Who is signed in, the light, and the way out. -->
<script lang="ts">
  import { goto } from '$app/navigation';
  import { api, answer, type Schemas } from '../api/client';
  import { queries } from '../api/queries';
  import { DropdownMenu } from 'bits-ui';
  import Menu from './Menu.svelte';

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
</script>

<Menu
  align="end"
  width="w-52"
  label="{initials}: {name}, account and light"
  summaryClass="bg-plum-wash text-primary grid size-8 place-items-center rounded-full text-xs font-semibold"
>
  {#snippet summary()}{initials}{/snippet}
  <p class="hint px-2 pb-2">{name}</p>
  {#each [['paper', 'Day light'], ['lamp', 'Lamp light'], ['', 'As the computer has it']] as const as [theme, words] (theme)}
    <DropdownMenu.Item class="menu-row" onSelect={() => light(theme)}>{words}</DropdownMenu.Item>
  {/each}
  <DropdownMenu.Separator class="border-rule my-1 border-t" />
  <DropdownMenu.Item class="menu-row" onSelect={() => goto('/')}>All books</DropdownMenu.Item>
  {#if me.administrator}
    <DropdownMenu.Item class="menu-row" onSelect={() => goto('/people')}>People</DropdownMenu.Item>
  {/if}
  <DropdownMenu.Item class="menu-row" onSelect={() => goto('/account')}
    >Your account</DropdownMenu.Item
  >
  <DropdownMenu.Item class="menu-row" onSelect={signOut}>Sign out</DropdownMenu.Item>
</Menu>
