<script lang="ts">
  import { fieldKey } from '$lib/shared/focus';
  /** A small field for a number; with `empty` it may also hold none, and shows that instead. */
  interface Props {
    value: number | undefined;
    label: string;
    onset: (value: number | undefined) => void;
    empty?: string;
    step?: number | 'any';
    width?: number;
    min?: number;
    max?: number;
    /** Enter makes what the form around it is for. */
    submits?: boolean;
  }
  let { value, label, onset, empty, step = 1, width = 52, min, max, submits = false }: Props = $props();

  function key(event: KeyboardEvent & { currentTarget: HTMLInputElement }) {
    if (!submits || event.key !== 'Enter') return fieldKey(event);
    event.preventDefault();
    event.stopPropagation();
    change(event);
    event.currentTarget.form?.requestSubmit();
  }

  function change(event: Event) {
    const written = (event.currentTarget as HTMLInputElement).valueAsNumber;
    if (!Number.isFinite(written)) return empty !== undefined ? onset(undefined) : undefined;
    onset(Math.max(min ?? -Infinity, Math.min(max ?? Infinity, written)));
  }
</script>

<input
  class="field h-[22px] !px-1"
  style:width="{width}px"
  type="number"
  {step}
  {min}
  {max}
  value={value ?? ''}
  placeholder={empty}
  aria-label={label}
  onkeydown={key}
  onchange={change}
/>
