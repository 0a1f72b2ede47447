<!-- What is shown at an address that is none, and when a page cannot be drawn. -->
<script lang="ts">
  import { page } from '$app/state';
  import Folded from '$lib/start/Folded.svelte';

  const none = $derived(page.status === 404);
</script>

<Folded
  title={none ? 'There is no such page' : 'This page could not be drawn'}
  about={none
    ? 'The address leads nowhere: it may be mistyped, or from before something was moved or deleted.'
    : 'Nothing in your books was changed. Load the page anew, or go back to where you were.'}
>
  <a class="link" href="/">To your books</a>
</Folded>
