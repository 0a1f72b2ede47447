<!-- The rows of a long list that are not drawn yet, counted, with the way to them. -->
<script lang="ts">
  import { count } from '../figures';

  let { left, columns, more }: { left: number; columns: number; more: () => void } = $props();
</script>

{#if left > 0}
  <tr>
    <td colspan={columns} class="text-soft text-[13px]">
      and {count(left)} more.
      <button class="link" onclick={more}>Show the next ones</button>
    </td>
  </tr>
{/if}
