<!-- A form that asks for something, says what is wrong with it, and waits for what comes of it. -->
<script lang="ts">
  import type { Snippet } from 'svelte';
  import { sentence } from '../api/client';

  let {
    submit,
    act,
    children,
    quiet = false,
    beside = false,
    label,
  }: {
    /** What the button says. */
    submit: string;
    act: () => Promise<unknown>;
    children: Snippet;
    quiet?: boolean;
    /** Whether the button stands beside what is asked for. */
    beside?: boolean;
    label?: string;
  } = $props();
  let busy = $state(false);
  let problem = $state('');

  async function go(event: SubmitEvent) {
    event.preventDefault();
    busy = true;
    problem = '';
    try {
      await act();
    } catch (error) {
      problem = sentence(error);
    } finally {
      busy = false;
    }
  }
</script>

<form class={beside ? 'flex items-center gap-2' : 'grid gap-3'} onsubmit={go} aria-label={label}>
  {@render children()}
  {#if problem}<p class="text-error" role="alert">{problem}</p>{/if}
  <div>
    <button class={['btn', quiet ? 'btn-quiet' : 'btn-primary']} disabled={busy}>{submit}</button>
  </div>
</form>
