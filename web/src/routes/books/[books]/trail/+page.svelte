<script lang="ts">
  import { api, answer } from '$lib/api/client';
  import { getBooks } from '$lib/books.svelte';
  import TrailTable from '$lib/trail/TrailTable.svelte';

  const books = getBooks();
</script>

<main class="paper grow overflow-auto px-11 py-6">
  <h1 class="text-2xl">Trail</h1>
  <p class="text-soft mt-1 mb-4">Who did what, and when. Rows are only ever added.</p>
  <div class="max-w-5xl">
    <TrailTable
      key={['trail', books.id]}
      ask={(query, signal) => {
        const params = { path: { books: books.id }, query };
        return answer(api.GET('/api/books/{books}/trail', { params, signal }));
      }}
      file={books.may('export') ? `/api/books/${books.id}/trail/trail.jsonl` : null}
      proof={(application) => `/books/${books.id}/proof/${application}`}
    />
  </div>
</main>
