<script lang="ts">
  import { motionPath, type Item, type Timeline } from '@zany/core';

  /** The ways that selected layers go in time: a knot at each key, dots at equal times, far apart where it is fast. */
  let { selected, timeline, moment, scale }: { selected: readonly Item[]; timeline: Timeline; moment: number; scale: number } = $props();

  const ways = $derived(
    selected.slice(0, 12).flatMap((item) => {
      const points = motionPath(timeline, item.layer);
      const [dx, dy] = [item.box.x - item.layer.pose.x, item.box.y - item.layer.pose.y];
      return points.length
        ? [{ id: item.layer.id, points: points.map((point) => ({ ...point, x: (point.x + dx) * scale, y: (point.y + dy) * scale })) }]
        : [];
    })
  );
</script>

<svg class="pointer-events-none absolute inset-0 overflow-visible" width="100%" height="100%" aria-hidden="true" data-ways={ways.length}>
  {#each ways as { id, points } (id)}
    <polyline
      points={points.map(({ x, y }) => `${x.toFixed(1)},${y.toFixed(1)}`).join(' ')}
      fill="none"
      stroke="var(--plum)"
      stroke-dasharray="5 3"
    />
    {#each points as { time, x, y, isKey } (time)}
      {#if isKey}<circle cx={x} cy={y} r="4" fill={time === moment ? 'var(--gold)' : 'var(--sheet)'} stroke="var(--plum)" stroke-width="1.5" />
      {:else}<circle cx={x} cy={y} r="1.4" fill="var(--plum)" />{/if}
    {/each}
  {/each}
</svg>
