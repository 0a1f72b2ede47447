<!-- A cell of a file that is typed over in place. -->
<script lang="ts">
  import EditableText from '../ui/EditableText.svelte';
  import type { WaitingFile } from './waiting.svelte';

  let { file, row, at, text }: { file: WaitingFile; row: number; at: number; text: string } =
    $props();
</script>

<EditableText
  {text}
  label="Row {row}{text ? `, ${text}` : ', empty'}"
  busy={file.busy !== ''}
  commit={(typed) => file.correct(row, at, typed)}
/>
