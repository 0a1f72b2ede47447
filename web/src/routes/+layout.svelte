<script lang="ts">
  import '../app.css';
  import { queries } from '$lib/api/queries';
  import Commands from '$lib/commands/Commands.svelte';
  import { CommandsState, setCommands } from '$lib/commands/commands.svelte';
  import { QueryClientProvider } from '@tanstack/svelte-query';

  let { children } = $props();
  const commands = setCommands(new CommandsState());
  commands.offer({
    title: 'Help',
    rank: 5,
    everywhere: true,
    commands: [
      {
        name: 'What can be done here, and by which keys',
        keys: ['?', 'Ctrl K'],
        words: 'help shortcuts commands search',
        run: () => (commands.open = true),
      },
    ],
  });
</script>

<svelte:window onkeydown={(event) => commands.key(event)} />
<QueryClientProvider client={queries}>{@render children()}</QueryClientProvider>
{#if commands.open}<Commands />{/if}
