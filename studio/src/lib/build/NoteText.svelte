<script lang="ts">
  import { takeFocus } from '$lib/shared/focus';

  /** A note, as it is read, and as it is written once it is pressed; a new one is written at once. */
  interface Props {
    note: string | undefined;
    label: string;
    most: number;
    canEdit: boolean;
    writing: boolean;
    onkeep: (note: string) => void;
  }
  let { note, label, most, canEdit, writing = $bindable(), onkeep }: Props = $props();

  function keep(event: Event) {
    const text = (event.currentTarget as HTMLTextAreaElement).value.trim();
    if (text !== (note ?? '')) onkeep(text);
    writing = false;
  }

  function key(event: KeyboardEvent) {
    event.stopPropagation();
    // What was written stays; a new line is as easy as in any text.
    if (event.key === 'Escape') (event.currentTarget as HTMLElement).blur();
  }
</script>

{#if writing}
  <textarea
    class="field w-full text-[12px]"
    rows="2"
    maxlength={most}
    value={note ?? ''}
    aria-label={label}
    use:takeFocus
    onkeydown={key}
    onblur={keep}></textarea>
{:else if note}
  <button class="soft w-full text-left text-[12px] whitespace-pre-wrap italic" aria-label={`${label}: ${note}`} onclick={() => (writing = canEdit)}
    >{note}</button
  >
{/if}
