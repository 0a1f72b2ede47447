<!-- The front of the house: what belongs to no set of books. -->
<script lang="ts">
  import type { Snippet } from 'svelte';
  import { page } from '$app/state';
  import { createQuery } from '@tanstack/svelte-query';
  import { session } from '../api/session';
  import LinksUsed from '../people/LinksUsed.svelte';
  import Account from '../people/Account.svelte';

  let { title, children }: { title: string; children: Snippet } = $props();
  const me = createQuery(session);
  const places = $derived([
    { path: '/', title: 'Books', shown: true },
    { path: '/people', title: 'People', shown: me.data?.administrator },
    { path: '/server-trail', title: 'Security', shown: me.data?.administrator },
    { path: '/outbox', title: 'Outbox', shown: me.data?.outbox },
    { path: '/account', title: 'Your account', shown: true },
  ]);
</script>

<svelte:head><title>{title} · Zero Fold</title></svelte:head>
<div class="flex h-full flex-col px-4.5 pb-3">
  <header class="flex h-[50px] shrink-0 items-center gap-6">
    <a class="font-serif text-lg font-semibold" href="/">Zero Fold</a>
    <nav class="places flex gap-0.5" aria-label="Places">
      {#each places.filter((place) => place.shown) as place (place.path)}
        {@const on = page.url.pathname === place.path}
        <a
          href={place.path}
          aria-current={on ? 'page' : undefined}
          class={['rounded px-3 py-2', on ? 'on text-primary font-semibold' : 'text-soft']}
        >
          {place.title}
        </a>
      {/each}
    </nav>
    <span class="ml-auto"
      >{#if me.data}<Account me={me.data} />{/if}</span
    >
  </header>
  <LinksUsed />
  {@render children()}
</div>
