<script lang="ts">
  /** A small field for a number; with `empty` it may also hold none. */
  interface Props {
    value: number | undefined;
    label: string;
    onset: (value: number | undefined) => void;
    empty?: boolean;
    step?: number;
    width?: number;
    min?: number;
    max?: number;
  }
  let { value, label, onset, empty = false, step = 1, width = 52, min, max }: Props = $props();

  function change(event: Event) {
    const written = (event.currentTarget as HTMLInputElement).valueAsNumber;
    if (!Number.isFinite(written)) return empty ? onset(undefined) : undefined;
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
  placeholder={empty ? '–' : undefined}
  aria-label={label}
  onkeydown={(event) => {
    event.stopPropagation();
    if (event.key === 'Enter') event.currentTarget.blur();
  }}
  onchange={change}
/>
