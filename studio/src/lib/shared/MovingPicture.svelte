<script lang="ts">
  import { compile, EXAMPLE_SIZE, filmOfWalk, type FilmMoment, type MovingExample } from '@zany/core';
  import { paintMoment } from '@zany/player';
  import { markPress } from '@zany/player/pictures';

  /** What a cue, a step or a transition does, as a film that goes round; the last picture of it for those who want nothing to move. */
  let { example, label }: { example: MovingExample; label: string } = $props();

  const PER_SECOND = 30;
  /** Pictures of one round at most. */
  const MOST = 240;
  const { width, height } = EXAMPLE_SIZE;

  let canvas: HTMLCanvasElement | undefined = $state();

  $effect(() => {
    const context = canvas?.getContext('2d');
    if (!canvas || !context) return;
    const scale = Math.max(1, devicePixelRatio);
    [canvas.width, canvas.height] = [width * scale, height * scale];
    const moments: FilmMoment[] = [];
    for (const moment of filmOfWalk(compile(example.piece), example.walk, PER_SECOND)) if (moments.push(moment) === MOST) break;
    const show = ({ picture, press }: FilmMoment) => {
      paintMoment(context, picture, { scale, picture: () => null });
      if (press) markPress(context, press, 10);
    };
    if (matchMedia('(prefers-reduced-motion: reduce)').matches) return show(moments.at(-1)!);
    const began = performance.now();
    let shown = -1;
    let request = requestAnimationFrame(function next(now) {
      const at = Math.floor(((now - began) / 1000) * PER_SECOND) % moments.length;
      if (at !== shown) show(moments[(shown = Math.max(0, at))]!);
      request = requestAnimationFrame(next);
    });
    return () => cancelAnimationFrame(request);
  });
</script>

<canvas
  bind:this={canvas}
  class="block rounded-md border border-[var(--line)]"
  style="width:{width}px;height:{height}px"
  role="img"
  aria-label="How it looks: {label}"
  data-moving={label}
></canvas>
