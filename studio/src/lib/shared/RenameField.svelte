<script lang="ts">
  import { takeFocus } from './focus';

  /** A field in the place of a name: Enter, or leaving it, keeps what is written; Escape, and nothing at all, the name as it was. */
  interface Props {
    name: string;
    label: string;
    /** A name that is another one than before. */
    onname: (name: string) => void;
    onclose: () => void;
    class?: string;
  }
  let { name, label, onname, onclose, class: looks = '' }: Props = $props();

  function leave(event: FocusEvent & { currentTarget: HTMLInputElement }) {
    const written = event.currentTarget.value.trim();
    onclose();
    if (written && written !== name) onname(written);
  }

  function key(event: KeyboardEvent & { currentTarget: HTMLInputElement }) {
    if (event.key === 'Escape') event.currentTarget.value = name;
    event.stopPropagation();
    if (event.key === 'Enter' || event.key === 'Escape') event.currentTarget.blur();
  }
</script>

<input class="field {looks}" value={name} maxlength="120" aria-label={label} use:takeFocus onblur={leave} onkeydown={key} />
