<script lang="ts">
  import { count } from '@zany/core';
  import { onDestroy } from 'svelte';
  import type { PageFile } from '$lib/client/page-file';
  import { Paper, type Cut, type Photo } from './paper.svelte';

  /** Photographs of sketches: the frames on them are found, put right by their corners, and cut out. */
  interface Props {
    files: readonly File[];
    /** CSS px that a frame is wide. */
    width: number;
    ontake: (pages: readonly PageFile[]) => void;
    oncancel: () => void;
  }
  let { files, width, ontake, oncancel }: Props = $props();

  /** CSS px around a photograph in which corners can still be taken hold of. */
  const ROOM = 14;
  const CORNERS = ['left top', 'right top', 'right bottom', 'left bottom'] as const;

  // svelte-ignore state_referenced_locally
  const paper = new Paper(files, width);
  onDestroy(() => paper.close());

  let at = $state(0);
  let chosen: Cut | null = $state(null);
  let room = $state({ width: 0, height: 0 });
  let making: { readonly done: number; readonly all: number } | null = $state(null);
  let fault = $state('');
  let stop = new AbortController();

  const photo = $derived(paper.photos[at]!);
  /** CSS px for a pixel of the photograph. */
  const scale = $derived(photo.width ? Math.min((room.width - 2 * ROOM) / photo.width, (room.height - 2 * ROOM) / photo.height) : 1);
  const shown = $derived(chosen && photo.cuts.includes(chosen) ? chosen : null);

  const open = (dialog: HTMLDialogElement) => {
    dialog.showModal();
  };

  function number(cut: Cut): number {
    let before = 0;
    for (const other of paper.photos) {
      const here = other.cuts.indexOf(cut);
      if (here >= 0) return before + here + 1;
      before += other.cuts.length;
    }
    return before;
  }

  /** The photograph that a cut is on comes to be shown with it. */
  function choose(of: Photo, cut: Cut): void {
    at = paper.photos.indexOf(of);
    chosen = cut;
  }

  let dragged: { readonly cut: Cut; readonly corner: number; readonly dx: number; readonly dy: number } | null = null;
  let sheet: SVGSVGElement | undefined = $state();

  const pointOf = (event: PointerEvent) => {
    const box = sheet!.getBoundingClientRect();
    return { x: (event.clientX - box.left) / scale, y: (event.clientY - box.top) / scale };
  };

  function take(event: PointerEvent, cut: Cut, corner: number): void {
    chosen = cut;
    const point = pointOf(event);
    dragged = { cut, corner, dx: cut.quad[corner]!.x - point.x, dy: cut.quad[corner]!.y - point.y };
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
  }

  function drag(event: PointerEvent): void {
    if (!dragged) return;
    const { x, y } = pointOf(event);
    paper.move(photo, dragged.cut, dragged.corner, { x: x + dragged.dx, y: y + dragged.dy });
  }

  const STEPS: Record<string, readonly [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };

  function nudge(event: KeyboardEvent, cut: Cut, corner: number): void {
    if (event.key === 'Delete' || event.key === 'Backspace') return leave(photo, cut);
    const step = STEPS[event.key];
    if (!step) return;
    event.preventDefault();
    // As far on screen, however large the photograph is.
    const far = (event.shiftKey ? 10 : 1) / Math.min(1, scale);
    const { x, y } = cut.quad[corner]!;
    paper.move(photo, cut, corner, { x: x + step[0] * far, y: y + step[1] * far });
  }

  function leave(of: Photo, cut: Cut): void {
    paper.remove(of, cut);
    if (chosen === cut) chosen = null;
  }

  async function make(): Promise<void> {
    stop = new AbortController();
    fault = '';
    making = { done: 0, all: paper.count };
    try {
      const pages = await paper.pages((done, all) => (making = { done, all }), stop.signal);
      if (pages.length) ontake(pages);
    } catch (error) {
      fault = (error as Error).message;
    }
    making = null;
  }

  const points = ({ quad }: Cut) => quad.map(({ x, y }) => `${x * scale},${y * scale}`).join(' ');
</script>

<dialog
  use:open
  class="paper m-auto flex h-[min(calc(100dvh-32px),900px)] w-[min(calc(100vw-32px),1400px)] max-w-none flex-col overflow-hidden rounded-2xl border p-0"
  aria-labelledby="from-paper"
  onkeydown={(event) => event.stopPropagation()}
  oncancel={(event) => (event.preventDefault(), oncancel())}
>
  <header class="flex items-baseline gap-4 px-5 pt-4 pb-3">
    <h2 id="from-paper" class="text-[18px]">Frames from paper</h2>
    <p class="soft truncate">Each box drawn on the paper becomes a frame. Pull its corners to where they belong.</p>
  </header>
  <div class="flex min-h-0 flex-1 gap-4 px-5">
    <div class="desk grid min-w-0 flex-1 place-items-center overflow-hidden rounded-lg" bind:clientWidth={room.width} bind:clientHeight={room.height}>
      {#if photo.state === 'unreadable'}
        <p class="p-6 text-center">{photo.file.name} cannot be read as a picture. Take it again as JPEG or PNG.</p>
      {:else if !photo.width}
        <p class="soft" role="status">Reading {photo.file.name} …</p>
      {:else}
        <svg
          bind:this={sheet}
          class="overflow-visible"
          width={photo.width * scale}
          height={photo.height * scale}
          role="group"
          aria-label={`Frames on ${photo.file.name}`}
        >
          <image href={photo.address} width={photo.width * scale} height={photo.height * scale} />
          {#each photo.cuts as cut (cut)}
            <polygon class="held" class:is-chosen={shown === cut} class:is-broken={!cut.isWhole} points={points(cut)} />
          {/each}
          {#each photo.cuts as cut (cut)}
            <g class="tag" transform={`translate(${cut.quad[0].x * scale + 18} ${cut.quad[0].y * scale + 18})`} aria-hidden="true">
              <circle r="12" />
              <text text-anchor="middle" dy="5">{number(cut)}</text>
            </g>
            {#each CORNERS as name, corner (corner)}
              <g
                class="corner"
                role="button"
                tabindex="0"
                aria-label={`Frame ${number(cut)}, ${name} corner`}
                transform={`translate(${cut.quad[corner]!.x * scale} ${cut.quad[corner]!.y * scale})`}
                onpointerdown={(event) => take(event, cut, corner)}
                onpointermove={drag}
                onpointerup={() => (dragged = null)}
                onpointercancel={() => (dragged = null)}
                onfocus={() => (chosen = cut)}
                onkeydown={(event) => nudge(event, cut, corner)}
              >
                <circle class="reach" r="20" />
                <circle class="knob" r="6" />
              </g>
            {/each}
          {/each}
        </svg>
        {#if photo.state === 'reading'}<p class="soft absolute" role="status">Looking for frames …</p>{/if}
      {/if}
    </div>
    <aside class="flex w-[250px] flex-none flex-col gap-3" aria-label="What is cut out">
      {#if paper.photos.length > 1}
        <div class="flex flex-wrap gap-1" role="group" aria-label="Photographs">
          {#each paper.photos as one, i (one.key)}
            <button class="act" aria-pressed={at === i} title={one.file.name} onclick={() => (at = i)}>{i + 1}</button>
          {/each}
        </div>
      {/if}
      <label class="flex items-center gap-2"
        ><span class="soft flex-none">White paper</span>
        <input
          class="range range-xs min-w-0 flex-1"
          type="range"
          min="0"
          max="1"
          step="0.05"
          bind:value={paper.strength}
          oninput={() => paper.showAll()}
          aria-valuetext={`${Math.round(paper.strength * 100)} %`}
        />
      </label>
      <ol class="min-h-0 flex-1 overflow-y-auto">
        {#each paper.photos as one (one.key)}
          {#each one.cuts as cut (cut)}
            <li class="cut flex items-start gap-2 p-2" class:is-chosen={shown === cut}>
              <b class="w-5 flex-none">{number(cut)}</b>
              <button class="min-w-0 flex-1" aria-label={`Show frame ${number(cut)}`} onclick={() => choose(one, cut)}>
                {#if !cut.isWhole}<span class="fault text-left text-[12px]">Its sides cross: pull its corners apart.</span>
                {:else if cut.preview}<img class="preview" src={cut.preview} alt="" />
                {:else}<span class="soft">…</span>{/if}
              </button>
              <button class="act act-plain flex-none" aria-label={`Leave out frame ${number(cut)}`} onclick={() => leave(one, cut)}>✕</button>
            </li>
          {/each}
        {/each}
      </ol>
      <div class="flex gap-2">
        <button class="act" disabled={photo.state !== 'read'} onclick={() => (chosen = paper.add(photo))}>One more</button>
        <button class="act act-plain" disabled={photo.state !== 'read'} onclick={() => paper.read(photo)}>Find them again</button>
      </div>
    </aside>
  </div>
  <footer class="flex items-center gap-3 px-5 py-4">
    {#if making}
      <span role="status">{making.done} of {count(making.all, 'frame')} cut out</span>
      <progress class="progress progress-warning w-52" value={making.done} max={making.all}></progress>
      <button class="act" onclick={() => stop.abort()}>Stop</button>
    {:else}
      <button class="act act-go" disabled={paper.count === 0} onclick={make}>Bring in {count(paper.count, 'frame')}, {width} wide</button>
      <button class="act act-plain" onclick={oncancel}>Not now</button>
      {#if fault}<p class="fault" role="alert">{fault}</p>{/if}
    {/if}
  </footer>
</dialog>

<style>
  .paper {
    background: var(--sheet);
    border-color: var(--line);
    color: var(--ink);
  }
  .paper::backdrop {
    background: rgb(0 0 0 / 0.45);
  }
  .desk {
    background: var(--paper);
    position: relative;
  }
  .held {
    fill: color-mix(in srgb, var(--gold) 14%, transparent);
    stroke: var(--gold);
    stroke-width: 2;
    stroke-dasharray: 7 4;
  }
  .held.is-chosen {
    stroke: var(--teal);
    stroke-dasharray: none;
    stroke-width: 3;
  }
  .held.is-broken {
    stroke: var(--brick);
  }
  .tag circle {
    fill: var(--sheet);
    stroke: var(--line);
  }
  .tag text {
    fill: var(--ink);
    font-size: 13px;
    font-weight: 600;
  }
  .corner {
    cursor: grab;
    touch-action: none;
    outline: none;
  }
  .reach {
    fill: transparent;
  }
  .knob {
    fill: var(--sheet);
    stroke: var(--gold-text);
    stroke-width: 2;
  }
  .corner:hover .knob,
  .corner:focus-visible .knob {
    fill: var(--teal);
    stroke: var(--sheet);
    r: 8px;
  }
  [aria-pressed='true'] {
    background: var(--ink);
    color: var(--sheet);
  }
  .cut {
    border-radius: 8px;
  }
  .cut.is-chosen {
    background: var(--gold-wash);
  }
  .preview {
    max-height: 150px;
    max-width: 100%;
    border: 1px solid var(--line);
  }
  .fault {
    color: var(--brick-text);
  }
</style>
