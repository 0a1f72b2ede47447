<!-- Who is signed in, the light, and the way out. -->
<script lang="ts">
  import { goto } from '$app/navigation';
  import { api, answer } from '../api/client';

  let { name }: { name: string } = $props();
  const initials = $derived(
    name
      .split(' ')
      .map((word) => word[0])
      .join('')
      .slice(0, 2),
  );

  async function signOut() {
    await answer(api.DELETE('/api/session'));
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

<details class="dropdown dropdown-end" data-keeps-focus>
  <summary
    class="bg-plum-wash text-primary grid size-8 cursor-pointer list-none place-items-center rounded-full text-xs font-semibold"
    aria-label="{initials}: {name}, account and light">{initials}</summary
  >
  <div class="dropdown-content paper border-rule-strong z-30 mt-1 w-52 border p-2">
    <p class="hint px-2 pb-2">{name}</p>
    {#each [['paper', 'Day light'], ['lamp', 'Lamp light'], ['', 'As the computer has it']] as const as [theme, words] (theme)}
      <button class="menu-row" onclick={() => light(theme)}>{words}</button>
    {/each}
    <hr class="border-rule my-1" />
    <a class="menu-row" href="/">All books</a>
    <button class="menu-row" onclick={signOut}>Sign out</button>
  </div>
</details>

<style>
  .menu-row {
    display: block;
    width: 100%;
    padding: 6px 8px;
    border-radius: 6px;
    text-align: left;
    cursor: pointer;
  }
  .menu-row:hover,
  .menu-row:focus-visible {
    background: var(--color-secondary);
  }
</style>
