<script lang="ts">
  import { api, answer } from '$lib/api/client';
  import Front from '$lib/start/Front.svelte';
  import TrailTable from '$lib/trail/TrailTable.svelte';
</script>

<Front title="Security">
  <main class="paper grow overflow-auto px-11 py-6">
    <h1 class="text-2xl">Security</h1>
    <p class="text-soft mt-1 mb-4">
      Sign-ins and failures, people, and what became of books. Rows are only ever added.
    </p>
    <div class="max-w-5xl">
      <TrailTable
        key={['server-trail']}
        ask={(query, signal) => answer(api.GET('/api/trail', { params: { query }, signal }))}
        file="/api/trail/trail.jsonl"
      />
    </div>
  </main>
</Front>
