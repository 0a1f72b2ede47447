<!-- What shows that one sits there oneself: the password, and a code where there is a second factor. -->
<script lang="ts">
  import type { Schemas } from '../api/client';
  import Field from '../ui/Field.svelte';

  let {
    account,
    shown = $bindable(),
    title = 'Your password',
    focus = false,
  }: {
    account: Schemas['AccountView'];
    shown: { password: string; code: string };
    title?: string;
    focus?: boolean;
  } = $props();
</script>

<Field
  {title}
  type="password"
  autocomplete="current-password"
  required
  {focus}
  bind:value={shown.password}
/>
{#if account.factor_since}
  <Field
    title="What your device shows, or a recovery code"
    autocomplete="one-time-code"
    required
    bind:value={shown.code}
  />
{/if}
