<script lang="ts">
  import type { Timeline } from '@zany/core';
  import { ROW } from './seam';
  import { drawLine, drawSections, drawWords, type DrawnLine, type SeamInk } from './seam-drawing';
  import SeamCanvas from './SeamCanvas.svelte';

  /** What is in view of the seam while something is pulled along it, on one canvas over its elements; they show it again once it is let go. */
  interface Props {
    timeline: Timeline;
    lines: readonly DrawnLine[];
    /** The place of the first of them below the head, and how far all is scrolled; CSS px. */
    first: number;
    left: number;
    top: number;
    /** CSS px: the ruler, and all of the head. */
    ruler: number;
    head: number;
    perFrame: number;
    /** How much is in view, names included; CSS px. */
    view: number;
    room: number;
    /** What is pulled in words, and where on the display. */
    told: { readonly words: string; readonly clientX: number } | null;
  }
  let { timeline, lines, first, left, top, ruler, head, perFrame, view, room, told }: Props = $props();

  function draw(context: CanvasRenderingContext2D, ink: SeamInk, wide: number, beginsAt: number) {
    const scale = devicePixelRatio;
    const shift = (x: number, y: number) => context.setTransform(scale, 0, 0, scale, x * scale, y * scale);
    context.save();
    context.beginPath();
    context.rect(0, head, wide, room - head);
    context.clip();
    lines.forEach((line, i) => {
      shift(-left, head + first + i * ROW - top);
      drawLine(context, line, (time) => (time + 0.5) * perFrame, ink);
    });
    context.restore();
    shift(-left, ruler);
    drawSections(context, timeline, perFrame, [left, left + wide], ink);
    shift(0, 0);
    if (told) drawWords(context, told.words, told.clientX - beginsAt, wide, ink);
  }
</script>

<div
  class="pointer-events-none absolute left-0 z-30"
  style:top="{top - head}px"
  style:width="max(100%, {view}px)"
  style:height="{room}px"
  aria-hidden="true"
>
  <SeamCanvas class="sticky block" height={room} {view} {draw} data-seam-canvas />
</div>
