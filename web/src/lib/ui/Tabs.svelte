<!-- Views of one thing beside each other, one of them shown. -->
<script lang="ts" generics="Key extends string">
  import type { Snippet } from 'svelte';
  import { Tabs } from 'bits-ui';
  import { count } from '../figures';

  let {
    tabs,
    view = $bindable(),
    children,
  }: {
    tabs: readonly { key: Key; title: string; number?: number }[];
    view: Key;
    /** The view that is shown. */
    children: Snippet;
  } = $props();
</script>

<Tabs.Root bind:value={() => view, (key) => (view = key as Key)}>
  <Tabs.List class="mb-2 flex gap-5">
    {#each tabs as { key, title, number } (key)}
      <Tabs.Trigger
        value={key}
        class="text-soft data-[state=active]:border-primary data-[state=active]:text-primary cursor-pointer border-b-2 border-transparent pb-1 data-[state=active]:font-semibold"
        >{title}{#if number !== undefined}<b class="ml-1 text-[11.5px]">{count(number)}</b
          >{/if}</Tabs.Trigger
      >
    {/each}
  </Tabs.List>
  <Tabs.Content value={view}>{@render children()}</Tabs.Content>
</Tabs.Root>
