<script lang="ts">
  import type { Snippet } from 'svelte';
  import { keyLabel } from '$lib/shared/commands';
  import { followPointer } from '$lib/shared/follow';
  import { sideKinds, type Column, type Sides } from './sides.svelte';

  /** A column beside the stage with an edge to pull it wider, or what is left of it while it is folded away. */
  interface Props {
    side: Column;
    sides: Sides;
    open: boolean;
    onunfold?: () => void;
    children: Snippet;
  }
  let { side, sides, open, onunfold = () => sides.fold(side, false), children }: Props = $props();

  const { label, key } = $derived(sideKinds[side]);
  /** Its edge is where the stage is. */
  const isBefore = $derived(side !== 'beside');

  function pull(event: PointerEvent) {
    const begun = sides.widthOf(side);
    const way = isBefore ? 1 : -1;
    followPointer(event, {
      move: (next) => sides.widen(side, begun + way * (next.clientX - event.clientX)),
      done: () => sides.keep(),
    });
  }

  function giveBack() {
    sides.widen(side, null);
    sides.keep();
  }
</script>

{#if open}
  <div class="relative grid min-h-0 grid-cols-[minmax(0,1fr)]">
    {@render children()}
    <!-- svelte-ignore a11y_no_static_element_interactions -->
    <span
      class="absolute inset-y-0 z-20 w-1.5 cursor-ew-resize hover:bg-[color-mix(in_srgb,var(--gold)_45%,transparent)] {isBefore
        ? '-right-0.5'
        : '-left-0.5'}"
      title="Pull the {label} wider; a double click gives its usual width"
      data-side-edge={side}
      onpointerdown={pull}
      ondblclick={giveBack}
    ></span>
  </div>
{:else}
  <button
    class="flex h-full w-full cursor-pointer flex-col items-center gap-2 border-x border-[var(--line)] bg-[var(--rim)] pt-3 text-[12px] text-[var(--soft)] hover:bg-[var(--gold-wash)] hover:text-[var(--ink)]"
    aria-label="Unfold the {label}"
    title="Unfold the {label} ({keyLabel(key)})"
    onclick={onunfold}
  >
    <span aria-hidden="true">{isBefore ? '▸' : '◂'}</span>
    <span class="[writing-mode:vertical-rl]">{label}</span>
  </button>
{/if}
