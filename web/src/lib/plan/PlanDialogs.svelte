<!-- The dialog of the plan that is open, from wherever it is asked. -->
<script lang="ts">
  import { beforeNavigate } from '$app/navigation';
  import ApplyDialog from './ApplyDialog.svelte';
  import PlanDialog from './PlanDialog.svelte';
  import { getPlanCommands } from './commands.svelte';

  const plans = getPlanCommands();
  const close = () => (plans.asked = null);
  // Whoever goes on to another page has not answered.
  beforeNavigate(close);
</script>

{#if plans.asked === 'apply'}
  <ApplyDialog {close} />
{:else if plans.asked}
  <PlanDialog asked={plans.asked} {close} />
{/if}
