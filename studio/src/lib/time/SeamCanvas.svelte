<script lang="ts">
  import type { HTMLCanvasAttributes } from 'svelte/elements';
  import { NAMES } from './seam';
  import { inkOf, sized, type SeamInk } from './seam-drawing';

  /** A canvas beside the names of the seam, drawn anew whenever what it is drawn from is another. */
  interface Props extends HTMLCanvasAttributes {
    /** CSS px; `view` is how much is in view, names included. */
    height: number;
    view: number;
    /** Draws in CSS px; `beginsAt` is where the canvas begins on the display, `wide` how wide it is. */
    draw: (context: CanvasRenderingContext2D, ink: SeamInk, wide: number, beginsAt: number) => void;
  }
  let { height, view, draw, ...others }: Props = $props();

  let canvas: HTMLCanvasElement | undefined = $state();
  const wide = $derived(Math.max(1, view - NAMES));
  const ink = $derived(canvas ? inkOf(canvas) : null);
  /** It stays there while something moves, and asking makes the browser lay out the page. */
  const beginsAt = $derived(canvas?.getBoundingClientRect().left ?? 0);

  $effect(() => {
    const context = canvas && sized(canvas, wide, height);
    if (context && ink) draw(context, ink, wide, beginsAt);
  });
</script>

<canvas {...others} style:left="{NAMES}px" style:width="{wide}px" style:height="{height}px" bind:this={canvas}></canvas>
