<script lang="ts">
  import '../app.css';
  import { queries } from '$lib/api/queries';
  import { QueryClientProvider } from '@tanstack/svelte-query';

  let { children } = $props();
</script>

<QueryClientProvider client={queries}>{@render children()}</QueryClientProvider>
