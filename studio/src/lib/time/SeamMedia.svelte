<script lang="ts">
  import { sectionsOf, trimOperations, type Layer, type Timeline } from '@zany/core';
  import { outlineOf, picturesOf, PEAKS } from '$lib/client/outlines';
  import type { SeamRow } from './seam';
  import type { Seam } from './seam-state.svelte';

  /** A video or sound in its row: as long as it plays from where it comes in, with its pictures or outline, trimmed by its ends. */
  interface Props {
    seam: Seam;
    timeline: Timeline;
    row: SeamRow;
    perFrame: number;
    /** CSS px. */
    height: number;
  }
  let { seam, timeline, row, perFrame, height }: Props = $props();

  const session = $derived(seam.session);
  const layer = $derived(row.item.layer);
  const asset = $derived(layer.asset === undefined ? undefined : session.plain.piece.assets.get(layer.asset));
  const ms = $derived(asset?.ms ?? 0);
  /** What is pulled just now, until it is let go. */
  let pulled: Layer['media'] | null = $state.raw(null);
  const media = $derived(pulled ?? layer.media ?? {});
  const begin = $derived(media.from ?? 0);
  const end = $derived(Math.min(ms, media.to ?? ms));
  const frames = $derived(((end - begin) * seam.fps) / 1000);
  /** Where it comes in: with its spans; where a cue on the timeline plays it; else with the scene, if it plays by itself. */
  const starts = $derived.by((): number[] => {
    const cued = Object.values(timeline.cues ?? {}).flatMap((cue) => (cue.layer === layer.id && cue.do !== 'pause' ? [cue.time] : []));
    if (cued.length) return cued;
    return row.spans.length ? row.spans.map(({ from }) => from) : [0];
  });
  /** As far as it is there. */
  const lasts = (start: number) => {
    const span = row.spans.find(({ from, to }) => start >= from && start <= to);
    const room = (span?.to ?? timeline.length - 1) + 1 - start;
    return media.loop ? room : Math.min(frames, room);
  };

  function draw(canvas: HTMLCanvasElement, wanted: { url: string; begin: number; end: number; width: number }) {
    let turn = 0;
    const paint = async ({ url, begin: from, end: to, width }: typeof wanted) => {
      const mine = ++turn;
      const wide = Math.max(1, Math.min(4000, Math.round(width * devicePixelRatio)));
      const peaks = layer.type === 'sound' ? await outlineOf(url) : null;
      const pictures = layer.type === 'video' ? await picturesOf(url, 36) : [];
      if (mine !== turn || !canvas.isConnected) return;
      [canvas.width, canvas.height] = [wide, Math.round(height * devicePixelRatio)];
      const context = canvas.getContext('2d')!;
      const share = (x: number) => (from + ((to - from) * x) / wide) / Math.max(1, ms);
      if (peaks) {
        context.fillStyle = getComputedStyle(canvas).color;
        for (let x = 0; x < wide; x++) {
          const [a, b] = [share(x) * PEAKS, share(x + 1) * PEAKS];
          let most = 0;
          for (let at = Math.floor(a); at <= Math.min(PEAKS - 1, Math.floor(b)); at++) most = Math.max(most, peaks[at] ?? 0);
          const tall = Math.max(1, most * canvas.height * 0.9);
          context.fillRect(x, (canvas.height - tall) / 2, 1, tall);
        }
      }
      const first = pictures[0];
      if (!first) return;
      const step = (canvas.height * first.width) / first.height;
      for (let x = 0; x < wide; x += step)
        context.drawImage(pictures[Math.min(pictures.length - 1, Math.floor(share(x + step / 2) * pictures.length))]!, x, 0, step, canvas.height);
    };
    void paint(wanted);
    return { update: paint, destroy: () => turn++ };
  }

  function trim(event: PointerEvent, edge: 'from' | 'to') {
    if (event.button !== 0 || !session.canEdit || !ms) return;
    event.preventDefault();
    event.stopPropagation();
    session.select([layer.id]);
    const at = (by: number) => {
      const moved = (edge === 'from' ? begin0 : end0) + (by * 1000) / seam.fps;
      return Math.round(edge === 'from' ? Math.max(0, Math.min(end0 - 40, moved)) : Math.max(begin0 + 40, Math.min(ms, moved)));
    };
    const [begin0, end0] = [begin, end];
    seam.follow(event, perFrame, {
      move: (by) => (pulled = { ...layer.media, [edge]: at(by) }),
      done: (by) => {
        pulled = null;
        if (Math.abs(by * perFrame) < 2) return;
        session.edit(
          edge === 'from' ? `Begin ${layer.name} later` : `End ${layer.name} earlier`,
          trimOperations(session.plain.piece, layer.id, edge, at(by), ms),
          'plain'
        );
      },
    });
  }
</script>

{#each starts as start (start)}
  {@const wide = lasts(start) * perFrame}
  <span
    class="absolute bottom-[1px] overflow-hidden rounded-[3px] border border-[var(--teal)] bg-[color-mix(in_srgb,var(--teal-wash)_60%,transparent)] text-[var(--teal)]"
    style:left="{start * perFrame}px"
    style:width="{Math.max(4, wide)}px"
    style:height="{height}px"
    title="{layer.name}: {Math.round((end - begin) / 100) / 10} s of {Math.round(ms / 100) / 10} s{sectionsOf(timeline).length > 1
      ? ', it goes on through sections while it is there'
      : ''}"
    data-media={layer.type}
  >
    {#if layer.asset && ms}<canvas
        class="pointer-events-none block h-full w-full"
        use:draw={{
          url: session.assetUrl(layer.asset),
          begin,
          end: media.loop ? begin + ((end - begin) * lasts(start)) / Math.max(1, frames) : end,
          width: wide,
        }}
      ></canvas>{/if}
    {#if session.canEdit && ms}
      <span
        class="absolute left-0 top-0 h-full w-[6px] cursor-ew-resize bg-[var(--teal)] opacity-60"
        role="presentation"
        data-trim="from"
        onpointerdown={(event) => trim(event, 'from')}
      ></span>
      <span
        class="absolute right-0 top-0 h-full w-[6px] cursor-ew-resize bg-[var(--teal)] opacity-60"
        role="presentation"
        data-trim="to"
        onpointerdown={(event) => trim(event, 'to')}
      ></span>
    {/if}
  </span>
{/each}
