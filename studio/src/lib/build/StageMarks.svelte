<script lang="ts">
  import type { Item, Rect } from '@zany/core';
  import { distancesBetween } from './measure';

  /** Marks over the stage that say something about the selection: how far things are apart, and how far they can be dragged. */
  let { selected, around, over, scale }: { selected: readonly Item[]; around: Rect | null; over: Rect | null; scale: number } = $props();

  const distances = $derived(around && over ? distancesBetween(around, over) : []);
  const tracks = $derived(
    selected.flatMap(({ layer, box }) => {
      if (!layer.drag?.bounds) return [];
      const { left, right, top, bottom } = layer.drag.bounds;
      const across = layer.drag.axis !== 'y';
      const down = layer.drag.axis !== 'x';
      return [
        {
          id: layer.id,
          x: box.x + (across ? Math.min(left, right) : 0),
          y: box.y + (down ? Math.min(top, bottom) : 0),
          width: box.width + (across ? Math.abs(right - left) : 0),
          height: box.height + (down ? Math.abs(bottom - top) : 0),
        },
      ];
    })
  );
</script>

<svg class="pointer-events-none absolute inset-0 overflow-visible" width="100%" height="100%" aria-hidden="true">
  {#each tracks as track (track.id)}
    <rect
      x={track.x * scale}
      y={track.y * scale}
      width={track.width * scale}
      height={track.height * scale}
      rx="4"
      fill="var(--teal)"
      fill-opacity=".07"
      stroke="var(--teal)"
      stroke-dasharray="6 4"
    />
  {/each}
  {#if over}<rect
      x={over.x * scale}
      y={over.y * scale}
      width={over.width * scale}
      height={over.height * scale}
      fill="none"
      stroke="var(--plum)"
      stroke-dasharray="3 3"
    />{/if}
  {#each distances as { axis, from, to, at } (`${axis} ${from}`)}
    {@const [x1, y1, x2, y2] = axis === 'x' ? [from, at, to, at] : [at, from, at, to]}
    <line x1={x1 * scale} y1={y1 * scale} x2={x2 * scale} y2={y2 * scale} stroke="var(--plum)" stroke-width="1.5" />
    <g transform="translate({((x1 + x2) / 2) * scale} {((y1 + y2) / 2) * scale})">
      <rect x="-16" y="-9" width="32" height="17" rx="4" fill="var(--plum)" /><text text-anchor="middle" y="4" font-size="11" fill="#fff"
        >{Math.round(Math.abs(to - from))}</text
      >
    </g>
  {/each}
</svg>
