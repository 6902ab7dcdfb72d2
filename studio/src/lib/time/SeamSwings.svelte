<script lang="ts">
  import { easeKeys, keysOf, swingOf, swung, type TrackOf } from '@zany/core';
  import { heightsOf } from './seam';
  import type { Seam } from './seam-state.svelte';

  /** A handle where a spring or an overshoot swings furthest: pulled up it swings further, pulled down less. */
  interface Props {
    seam: Seam;
    one: { readonly id: string; readonly track: TrackOf };
    x: (time: number) => number;
    perFrame: number;
    /** CSS px of the row. */
    height: number;
  }
  let { seam, one, x, perFrame, height }: Props = $props();

  /** CSS px that a handle is pulled for a swing as far again as the whole way. */
  const REACH = 120;

  const handles = $derived(
    keysOf(one.track).flatMap((key, i, keys) => {
      const next = keys[i + 1];
      const swing = next && key.easing !== undefined ? swingOf(key.easing) : null;
      if (!next || !swing || typeof key.value !== 'number' || typeof next.value !== 'number' || key.value === next.value) return [];
      const at = heightsOf(one.track, height);
      const rises = next.value > key.value;
      return [
        {
          time: key.time,
          swing,
          rises,
          cx: x(key.time + (next.time - key.time) * swing.t),
          // Close to the edge of the row it would be cut off.
          cy: Math.max(3, Math.min(height - 3, at(key.value + (next.value - key.value) * swing.share))),
        },
      ];
    })
  );

  function pull(event: PointerEvent, { time, swing, rises }: (typeof handles)[number]) {
    if (event.button !== 0) return;
    event.preventDefault();
    event.stopPropagation();
    const keys = [{ track: one.id, time }];
    const easingAt = (next: PointerEvent) => swung(swing.kind, swing.amount + ((event.clientY - next.clientY) * (rises ? 1 : -1)) / REACH);
    seam.keys = keys;
    seam.follow(event, perFrame, {
      move: (_by, next) => seam.preview((now) => easeKeys(now, keys, easingAt(next))),
      done: (_by, next) => {
        seam.preview(null);
        const easing = easingAt(next);
        if (Math.abs(next.clientY - event.clientY) >= 2) seam.edit(`Easing ${easing}`, (now) => easeKeys(now, keys, easing));
      },
    });
  }
</script>

{#each handles as handle (handle.time)}
  <rect
    class="cursor-ns-resize"
    style:pointer-events="all"
    x={handle.cx - 4}
    y={handle.cy - 4}
    width="8"
    height="8"
    rx="1.5"
    transform="rotate(45 {handle.cx} {handle.cy})"
    fill="var(--sheet)"
    stroke="var(--plum)"
    stroke-width="1.5"
    role="presentation"
    data-swing={handle.swing.kind}
    onpointerdown={(event) => pull(event, handle)}
    ><title>{handle.swing.kind === 'spring' ? 'How springy' : 'How far beyond'}: {handle.swing.amount}</title></rect
  >
{/each}
