<!-- A form that asks for something, says what is wrong with it, and waits for what comes of it. -->
<script lang="ts">
  import type { Snippet } from 'svelte';
  import { Attempt } from '../api/attempt.svelte';
  import Problem from './Problem.svelte';

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
  const attempt = new Attempt();

  async function go(event: SubmitEvent) {
    event.preventDefault();
    await attempt.run(async () => {
      await act();
    });
  }
</script>

<form class={beside ? 'flex items-center gap-2' : 'grid gap-3'} onsubmit={go} aria-label={label}>
  {@render children()}
  <Problem of={attempt} />
  <div>
    <button class={['btn', quiet ? 'btn-quiet' : 'btn-primary']} disabled={attempt.busy}
      >{submit}</button
    >
  </div>
</form>
