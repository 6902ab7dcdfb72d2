<script lang="ts">
  import type { Item, Rect, SceneProgram } from '@zany/core';
  import { distancesBetween, onScreen } from './measure';
  import type { Guide } from './snap';

  /** Marks over the stage: what can be hit, what is lit and selected, what the pointer draws, and how far things are apart. */
  interface Props {
    scene: SceneProgram;
    /** Layers whose areas are hatched or outlined. */
    hits: readonly Item[];
    lit: readonly string[];
    selected: readonly Item[];
    around: Rect | null;
    /** What the selection is measured to. */
    over: Rect | null;
    guides: readonly Guide[];
    marquee: Rect | null;
    scale: number;
  }
  let { scene, hits, lit, selected, around, over, guides, marquee, scale }: Props = $props();

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
  const litBoxes = $derived(
    lit.flatMap((id) => {
      const item = scene.byId.get(id);
      return item && !selected.includes(item) ? [item.box] : [];
    })
  );
  const narrow = (item: Item) => Math.min(item.box.width, item.box.height);

  function turned({ box, layer }: Item): string | undefined {
    const { rotation, anchor = { x: 0.5, y: 0.5 } } = layer.pose;
    return rotation ? `rotate(${rotation} ${(box.x + box.width * anchor.x) * scale} ${(box.y + box.height * anchor.y) * scale})` : undefined;
  }
</script>

<svg class="pointer-events-none absolute inset-0 overflow-visible" width="100%" height="100%" aria-hidden="true">
  <defs>
    <pattern id="hatch" width="8" height="8" patternUnits="userSpaceOnUse" patternTransform="rotate(45)"
      ><rect width="8" height="8" fill="var(--brick)" fill-opacity=".05" /><line
        x1="0"
        y1="0"
        x2="0"
        y2="8"
        stroke="var(--brick)"
        stroke-width="2"
        stroke-opacity=".34"
      /></pattern
    >
  </defs>
  {#each hits as item (item.layer.id)}
    {@const isArea = item.layer.type === 'hit'}
    <rect
      {...onScreen(item.box, scale)}
      fill={isArea ? 'url(#hatch)' : 'none'}
      stroke="var(--brick)"
      stroke-dasharray="4 3"
      stroke-opacity={isArea ? 0.8 : 0.45}
    />
    {#if narrow(item) < 44 && item.threads.length}
      <g transform="translate({(item.box.x + item.box.width / 2) * scale} {(item.box.y + item.box.height) * scale + 11})">
        <rect x="-52" y="-9" width="104" height="17" rx="4" fill="var(--brick-wash)" /><text
          text-anchor="middle"
          y="4"
          font-size="11"
          fill="var(--brick-text)">{Math.round(item.box.width)} × {Math.round(item.box.height)}, wants {narrow(item) < 24 ? 24 : 44}</text
        >
      </g>
    {/if}
  {/each}
  {#each litBoxes as box, i (i)}
    <rect {...onScreen(box, scale, 2)} rx="4" fill="var(--gold)" fill-opacity=".12" stroke="var(--gold)" stroke-width="2" />
  {/each}
  {#each selected as item (item.layer.id)}
    <rect {...onScreen(item.box, scale)} transform={turned(item)} fill="none" stroke="var(--gold)" stroke-width="2" />
  {/each}
  {#if around && selected.length > 1}<rect {...onScreen(around, scale)} fill="none" stroke="var(--gold)" stroke-dasharray="3 3" />{/if}
  {#each guides as guide, i (i)}
    {@const at = guide.at * scale}
    {#if guide.axis === 'x'}<line x1={at} x2={at} y1="-40" y2={scene.scene.height * scale + 40} stroke="var(--teal)" />
    {:else}<line y1={at} y2={at} x1="-40" x2={scene.scene.width * scale + 40} stroke="var(--teal)" />{/if}
  {/each}
  {#if marquee}<rect {...onScreen(marquee, scale)} fill="var(--gold)" fill-opacity=".12" stroke="var(--gold)" />{/if}
  {#each tracks as track (track.id)}
    <rect {...onScreen(track, scale)} rx="4" fill="var(--teal)" fill-opacity=".07" stroke="var(--teal)" stroke-dasharray="6 4" />
  {/each}
  {#if over}<rect {...onScreen(over, scale)} fill="none" stroke="var(--plum)" stroke-dasharray="3 3" />{/if}
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
