<!-- A day that something acts on: once it is whole, and never on half of what is typed. -->
<script lang="ts">
  let {
    value,
    label,
    choose,
    disabled = false,
    optional = false,
    class: look = 'input',
  }: {
    value: string;
    label: string;
    choose: (day: string) => void;
    disabled?: boolean;
    /** Whether no day may be said as well. */
    optional?: boolean;
    class?: string;
  } = $props();

  /** Whether keys are typing the day just now: each makes another one of it. */
  let typing = false;

  function act(field: HTMLInputElement) {
    typing = false;
    // What is empty, or of no year that books have, is no day that anybody meant.
    const year = Number(field.value.slice(0, 4));
    const none = optional && field.value === '' && !field.validity.badInput;
    if (!none && (year < 1900 || year > 2200)) field.value = value;
    else if (field.value !== value) choose(field.value);
  }

  function key(event: KeyboardEvent & { currentTarget: HTMLInputElement }) {
    typing = true;
    if (event.key === 'Enter') act(event.currentTarget);
  }
</script>

<input
  type="date"
  class={look}
  aria-label={label}
  {value}
  {disabled}
  onkeydown={key}
  onchange={(event) => !typing && act(event.currentTarget)}
  onblur={(event) => act(event.currentTarget)}
/>
