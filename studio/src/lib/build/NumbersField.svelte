<script lang="ts">
  import { sumIn } from '@zany/core';
  import { getDesk } from '$lib/shared/desk.svelte';
  import { fieldKey } from '$lib/shared/focus';
  import { followPointer } from '$lib/shared/follow';
  import { noNumber, steppedBy, summed } from './numbers';

  /** A number of several things at once: written, as a sum where one likes, pulled by its sign, or stepped by arrows; each keeps its own. */
  interface Props {
    /** Of each thing. */
    values: readonly number[];
    label: string;
    /** Stands before the field, to pull by. */
    sign: string;
    onset: (values: readonly number[]) => void;
    /** Shows values while they are pulled; null ends it. */
    onsee?: (values: readonly number[] | null) => void;
    min?: number;
    max?: number;
    step?: number;
    width?: number;
    disabled?: boolean;
    unit?: string;
  }
  let { values, label, sign, onset, onsee, min, max, step = 1, width = 41, disabled = false, unit }: Props = $props();

  const place = getDesk();
  const bounds = $derived({ min, max });
  const rounded = $derived(values.map((value) => Math.round(value * 100) / 100));
  const common = $derived(rounded.every((value) => value === rounded[0]) ? rounded[0] : undefined);
  /** Long numbers have the room they need. */
  const wide = $derived(Math.max(width, 10 + 7 * String(common ?? '').length));
  let field: HTMLInputElement | undefined = $state();

  function write(input: HTMLInputElement) {
    const written = input.value.trim();
    const made = written === '' ? null : summed(values, written, bounds);
    // What was written goes on standing there unless it is taken.
    input.value = common === undefined ? '' : String(common);
    if (made) onset(made);
    else if (written !== '') place.session?.notify(noNumber(written));
  }

  function key(event: KeyboardEvent & { currentTarget: HTMLInputElement }) {
    const way = { ArrowUp: 1, ArrowDown: -1 }[event.key];
    if (way === undefined) return fieldKey(event);
    event.preventDefault();
    event.stopPropagation();
    const written = sumIn(event.currentTarget.value, common ?? 0);
    const from = written === null || common === undefined ? values : values.map(() => written);
    onset(steppedBy(from, way * step * (event.shiftKey ? 10 : 1), bounds));
  }

  function pull(event: PointerEvent) {
    if (disabled || event.button !== 0) return;
    const begun = values;
    let now: readonly number[] | null = null;
    followPointer(event, {
      move: (next) => {
        const by = Math.round((next.clientX - event.clientX) / 2) * step * (next.shiftKey ? 10 : 1);
        if (now === null && by === 0) return;
        now = steppedBy(begun, by, bounds);
        onsee?.(now);
      },
      done: (last) => {
        onsee?.(null);
        if (now && last) onset(now);
        else if (!now) field?.select();
      },
    });
  }
</script>

<span class="flex items-center gap-0.5">
  <!-- svelte-ignore a11y_no_static_element_interactions -->
  <span
    class="cursor-ew-resize touch-none select-none px-0.5 text-[var(--soft)] hover:text-[var(--ink)]"
    title="Pull to change the {label}; with Shift by tens"
    data-pull-number={label}
    onpointerdown={pull}>{sign}</span
  >
  <input
    bind:this={field}
    class="field h-[22px] !px-[3px] text-right tabular-nums"
    style:width="{wide}px"
    role="spinbutton"
    inputmode="decimal"
    autocomplete="off"
    {disabled}
    value={common ?? ''}
    placeholder={common === undefined ? 'mixed' : ''}
    aria-label={label}
    aria-valuenow={common}
    aria-valuetext={common === undefined ? 'mixed' : undefined}
    aria-valuemin={min}
    aria-valuemax={max}
    title="{label}: a number, a sum, or one that goes on from what is there: +8, /2, 100-16"
    onfocus={(event) => event.currentTarget.select()}
    onkeydown={key}
    onchange={(event) => write(event.currentTarget)}
  />
  {#if unit}<span class="soft">{unit}</span>{/if}
</span>
