<script lang="ts">
  import type { Timeline } from '@zany/core';
  import { NAMES, ROW } from './seam';
  import { drawLine, drawSections, drawWords, inkOf, sized, type DrawnLine } from './seam-drawing';

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

  let canvas: HTMLCanvasElement | undefined = $state();
  const wide = $derived(Math.max(1, view - NAMES));
  const ink = $derived(canvas ? inkOf(canvas) : null);
  /** Where the canvas begins on the display: it stays there while something moves, and asking makes the browser lay out the page. */
  const beginsAt = $derived(canvas?.getBoundingClientRect().left ?? 0);

  $effect(() => {
    const context = canvas && sized(canvas, wide, room);
    if (!context || !ink) return;
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
  });
</script>

<div
  class="pointer-events-none absolute left-0 z-30"
  style:top="{top - head}px"
  style:width="max(100%, {view}px)"
  style:height="{room}px"
  aria-hidden="true"
>
  <canvas class="sticky block" style:left="{NAMES}px" style:width="{wide}px" style:height="{room}px" data-seam-canvas bind:this={canvas}></canvas>
</div>
