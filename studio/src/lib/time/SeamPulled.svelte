<script lang="ts">
  import { trackValue, type TrackOf } from '@zany/core';
  import { NAMES, pointsOf, ROW } from './seam';

  /**
   * Curves and knots of the rows in view while something is pulled, on one canvas: marks in a drawing of each row cost the browser
   * more than all else in such a frame. Elements show them again once it is let go.
   */
  interface Props {
    /** For each row its curves, and its knots with their heights in it. */
    lines: readonly {
      readonly tracks: readonly TrackOf[];
      readonly isOpen: boolean;
      readonly knots: readonly { readonly time: number; readonly y: number; readonly isOn: boolean }[];
    }[];
    /** The place of the first of them, in CSS px. */
    top: number;
    x: (time: number) => number;
    /** How much of the time is in view, in CSS px. */
    view: number;
  }
  let { lines, top, x, view }: Props = $props();

  let canvas: HTMLCanvasElement | undefined = $state();
  const height = $derived(lines.length * ROW);
  const wide = $derived(Math.max(1, view - NAMES));

  /** The colours of the theme, as a canvas names them; asked once, since asking makes the browser work out all styles. */
  const colors = $derived.by(() => {
    if (!canvas) return null;
    const style = getComputedStyle(canvas);
    const [line, sheet, gold, ink] = ['--gold-text', '--sheet', '--gold', '--ink'].map((name) => style.getPropertyValue(name).trim());
    return { line: line!, sheet: sheet!, gold: gold!, ink: ink! };
  });

  $effect(() => {
    const context = canvas?.getContext('2d');
    if (!canvas || !context || !colors) return;
    const { line, sheet, gold, ink } = colors;
    const scale = devicePixelRatio;
    const [w, h] = [Math.round(wide * scale), Math.round(height * scale)];
    if (canvas.width !== w || canvas.height !== h) [canvas.width, canvas.height] = [w, h];
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.clearRect(0, 0, w, h);
    const scrolled = canvas.closest('.scroll')?.scrollLeft ?? 0;
    lines.forEach(({ tracks, isOpen, knots }, i) => {
      context.setTransform(scale, 0, 0, scale, -scrolled * scale, i * ROW * scale);
      context.strokeStyle = line;
      context.globalAlpha = isOpen ? 1 : 0.55;
      context.lineWidth = isOpen ? 1.6 : 1.1;
      for (const track of tracks) {
        context.beginPath();
        for (const [px, py] of pointsOf(track, (time) => trackValue(track, time), x, ROW)) context.lineTo(px, py);
        context.stroke();
      }
      context.globalAlpha = 1;
      context.lineWidth = 1.5;
      for (const { time, y, isOn } of knots) {
        context.beginPath();
        context.arc(x(time), y, 4.75, 0, 2 * Math.PI);
        context.fillStyle = isOn ? gold : sheet;
        context.fill();
        context.strokeStyle = isOn ? ink : line;
        context.stroke();
      }
    });
  });
</script>

<div class="pointer-events-none absolute left-0 right-0" style:top="{top}px" style:height="{height}px" aria-hidden="true">
  <canvas class="sticky block" style:left="{NAMES}px" style:width="{wide}px" style:height="{height}px" bind:this={canvas}></canvas>
</div>
