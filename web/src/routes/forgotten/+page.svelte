<script lang="ts">
  import { api, answer } from '$lib/api/client';
  import Folded from '$lib/start/Folded.svelte';
  import Asks from '$lib/ui/Asks.svelte';
  import Field from '$lib/ui/Field.svelte';

  let email = $state('');
  let sent = $state(false);

  async function ask() {
    await answer(api.POST('/api/link/forgotten', { body: { email } }));
    sent = true;
  }
</script>

<Folded
  title="A new password"
  about="You get a letter with a link that works once, within an hour. Until you follow it, your password stays as it is."
>
  {#if sent}
    <p role="status">
      If somebody signs in as <b class="font-semibold">{email}</b>, a letter is on its way. Look
      where letters you did not expect end up, too.
    </p>
  {:else}
    <Asks submit="Send the link" act={ask}>
      <Field
        title="E-mail address"
        type="email"
        autocomplete="username"
        required
        focus
        bind:value={email}
      />
    </Asks>
  {/if}
  <p class="mt-5"><a class="link" href="/sign-in">Back to signing in</a></p>
</Folded>
