<script lang="ts">
  import { followPointer } from '$lib/shared/follow';
  import { sideKinds, type Side, type Sides } from './sides.svelte';

  /** The edge between a side and what is next to it, to pull it wider. */
  let { side, sides, at }: { side: Side; sides: Sides; at: 'left' | 'right' } = $props();

  function pull(event: PointerEvent) {
    const begun = sides.widthOf(side);
    const way = at === 'right' ? 1 : -1;
    followPointer(event, { move: (next) => sides.widen(side, begun + way * (next.clientX - event.clientX)) });
  }
</script>

<!-- svelte-ignore a11y_no_static_element_interactions -->
<span
  class="absolute inset-y-0 z-20 w-1.5 cursor-ew-resize hover:bg-[color-mix(in_srgb,var(--gold)_45%,transparent)] {at === 'right'
    ? '-right-0.5'
    : '-left-0.5'}"
  title="Pull the {sideKinds[side].label} wider; a double click gives its usual width"
  data-side-edge={side}
  onpointerdown={pull}
  ondblclick={() => sides.widen(side, null)}
></span>
