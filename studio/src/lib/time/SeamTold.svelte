<script lang="ts">
  import { NAMES } from './seam';
  import { drawWords, inkOf, sized } from './seam-drawing';

  /** The moment that is gone to along the seam, on a tag on the ruler beside the pointer: as elements, words that change cost the most. */
  interface Props {
    words: string;
    clientX: number;
    /** CSS px of the ruler, and of all that is in view, names included. */
    height: number;
    view: number;
  }
  let { words, clientX, height, view }: Props = $props();

  let canvas: HTMLCanvasElement | undefined = $state();
  const wide = $derived(Math.max(1, view - NAMES));
  const ink = $derived(canvas ? inkOf(canvas) : null);
  /** Where the ruler begins on the display: it stays there while something moves, and asking makes the browser lay out the page. */
  const beginsAt = $derived(canvas?.getBoundingClientRect().left ?? 0);

  $effect(() => {
    const context = canvas && sized(canvas, wide, height);
    if (context && ink) drawWords(context, words, clientX - beginsAt, wide, ink);
  });
</script>

<div class="pointer-events-none sticky left-0 top-0 z-30 h-0" aria-hidden="true">
  <canvas class="absolute top-0" style:left="{NAMES}px" style:width="{wide}px" style:height="{height}px" data-seam-told bind:this={canvas}></canvas>
</div>
