<script lang="ts">
  import { followPointer } from '$lib/shared/follow';
  import type { Box } from './routes';
  import { centredOn, type Size, type View } from './view';

  /** All of the map, small, with what is seen of it; pulled, it shows what is under the pointer. */
  interface Props {
    boxes: ReadonlyMap<string, Box>;
    whole: Box;
    view: View;
    faint: ReadonlySet<string>;
    desk: Size;
    onlook: (view: View) => void;
  }
  let { boxes, whole, view, faint, desk, onlook }: Props = $props();

  const WIDE = 168;
  const HIGH = 104;
  const scale = $derived(Math.min(WIDE / whole.width, HIGH / whole.height));
  const rects = (isFaint: boolean) =>
    [...boxes]
      .filter(([id]) => faint.has(id) === isFaint)
      .map(([, { x, y, width, height }]) => `M${x} ${y}h${width}v${height}h${-width}z`)
      .join('');
  const [bold, pale] = $derived([rects(false), rects(true)]);
  const seen = $derived({ x: -view.x / view.scale, y: -view.y / view.scale, width: desk.width / view.scale, height: desk.height / view.scale });

  let box: HTMLElement;
  function go(event: PointerEvent) {
    const { left, top } = box.getBoundingClientRect();
    onlook(centredOn(view, desk, (event.clientX - left) / scale + whole.x, (event.clientY - top) / scale + whole.y));
  }
</script>

<!-- svelte-ignore a11y_no_static_element_interactions -->
<div
  class="pop absolute right-3 top-3 cursor-crosshair overflow-hidden p-1.5"
  data-overview
  onpointerdown={(event) => {
    event.stopPropagation();
    go(event);
    followPointer(event, { move: go });
  }}
>
  <div bind:this={box} class="pointer-events-none">
    <svg width={whole.width * scale} height={whole.height * scale} viewBox="{whole.x} {whole.y} {whole.width} {whole.height}" aria-hidden="true">
      <path d={pale} fill="var(--line)" />
      <path d={bold} fill="var(--soft)" />
      <rect
        {...seen}
        fill="color-mix(in srgb, var(--gold) 14%, transparent)"
        stroke="var(--gold)"
        stroke-width="1.5"
        vector-effect="non-scaling-stroke"
      />
    </svg>
  </div>
</div>
