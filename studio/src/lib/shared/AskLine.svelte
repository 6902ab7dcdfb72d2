<script lang="ts">
  interface Props {
    /** What is asked for, to those who hear it; the same in short stands in the empty line. */
    label: string;
    placeholder: string;
    /** What is done with it. */
    act: string;
    most: number;
    /** Whether an empty line is an answer. */
    empty?: boolean;
    /** What stands there at first. */
    begin?: string;
    onsay: (text: string) => void;
    onclose: () => void;
    class?: string;
  }
  let { label, placeholder, act, most, empty = false, begin = '', onsay, onclose, class: size = '' }: Props = $props();

  // svelte-ignore state_referenced_locally
  let text = $state(begin);
</script>

<form
  class="flex gap-1.5"
  onsubmit={(event) => {
    event.preventDefault();
    if (empty || text.trim()) onsay(text);
  }}
>
  <!-- svelte-ignore a11y_autofocus -->
  <input
    class="input h-[26px] !px-2 {size}"
    aria-label={label}
    {placeholder}
    maxlength={most}
    autofocus
    bind:value={text}
    onkeydown={(event) => event.key === 'Escape' && onclose()}
  />
  <button class="chip chip-gold" disabled={!empty && !text.trim()}>{act}</button>
</form>
