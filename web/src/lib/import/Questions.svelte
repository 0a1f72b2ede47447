<!-- What is not certain, one question at a time: what each reading would give stands beside it. -->
<script lang="ts">
  import type { WaitingFile } from './waiting.svelte';

  let { file }: { file: WaitingFile } = $props();
  const questions = $derived(file.looked!.questions);
  let at = $state(0);
  const question = $derived(questions[Math.min(at, questions.length - 1)]);

  function answer(reading: string) {
    if (!question) return;
    const { about } = question;
    void file.choose((now) => ({ answers: { ...now.answers, [about]: reading } }));
  }
</script>

{#if question}
  <section class="bg-ochre-wash mb-5 rounded px-3 py-3" aria-label="Questions">
    <p>
      <b class="text-warning">
        {questions.length === 1 ? 'One question.' : `${questions.length} questions.`}
      </b>
      {question.text}
    </p>
    <ul class="mt-2 grid gap-1.5">
      {#each question.readings as reading (reading.key)}
        <li>
          <button
            class="bg-base-100 border-rule-strong hover:border-primary w-full rounded border px-3 py-1.5 text-left"
            data-reading={reading.key}
            disabled={file.busy !== ''}
            onclick={() => answer(reading.key)}
          >
            <span class="flex items-baseline justify-between gap-2">
              {reading.text}
              {#if reading.key === question.default}<span class="hint">holds until you say</span
                >{/if}
            </span>
            <span class="hint block">{reading.result}</span>
          </button>
        </li>
      {/each}
    </ul>
    {#if questions.length > 1}
      <button class="link mt-2 text-xs" onclick={() => (at = (at + 1) % questions.length)}
        >Another question first</button
      >
    {/if}
  </section>
{/if}
