<script lang="ts">
  import { sumIn } from '@zany/core';
  import { getDesk } from '$lib/shared/desk.svelte';
  import { fieldKey } from '$lib/shared/focus';
  import { noNumber, summed, within } from './numbers';
  /** A small field for a number, or a sum that makes one; with `empty` it may also hold none, and shows that instead. */
  interface Props {
    value: number | undefined;
    label: string;
    onset: (value: number | undefined) => void;
    empty?: string;
    step?: number;
    width?: number;
    min?: number;
    max?: number;
    /** Enter makes what the form around it is for. */
    submits?: boolean;
    /** Several things have several. */
    mixed?: boolean;
  }
  let { value, label, onset, empty, step = 1, width = 52, min, max, submits = false, mixed = false }: Props = $props();

  const place = getDesk();
  const shown = $derived(mixed || value === undefined ? '' : String(value));
  const bounds = $derived({ min, max });

  function key(event: KeyboardEvent & { currentTarget: HTMLInputElement }) {
    const way = { ArrowUp: 1, ArrowDown: -1 }[event.key];
    if (way !== undefined) {
      event.preventDefault();
      event.stopPropagation();
      const from = sumIn(event.currentTarget.value, value ?? 0) ?? value ?? 0;
      return onset(within(Number((from + way * step * (event.shiftKey ? 10 : 1)).toFixed(4)), bounds));
    }
    if (!submits || event.key !== 'Enter') return fieldKey(event);
    event.preventDefault();
    event.stopPropagation();
    write(event.currentTarget);
    event.currentTarget.form?.requestSubmit();
  }

  function write(input: HTMLInputElement) {
    const written = input.value.trim();
    if (written === shown) return;
    const made = summed([value ?? 0], written, bounds);
    input.value = shown;
    if (made) onset(made[0]);
    else if (written !== '') place.session?.notify(noNumber(written));
    else if (empty !== undefined && !mixed) onset(undefined);
  }
</script>

<input
  class="field h-[22px] !px-1"
  style:width="{width}px"
  role="spinbutton"
  inputmode="decimal"
  autocomplete="off"
  value={shown}
  placeholder={mixed ? 'mixed' : empty}
  aria-label={label}
  aria-valuenow={mixed ? undefined : value}
  aria-valuetext={mixed ? 'mixed' : undefined}
  aria-valuemin={min}
  aria-valuemax={max}
  onkeydown={key}
  onchange={(event) => write(event.currentTarget)}
/>
