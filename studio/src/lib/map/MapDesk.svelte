<script lang="ts">
  import { goto } from '$app/navigation';
  import { count, wireTo, type Operation } from '@zany/core';
  import { newId } from '$lib/client/ids';
  import { getDesk, useSession } from '$lib/shared/desk.svelte';
  import { download } from '$lib/shared/download';
  import { followPointer } from '$lib/shared/follow';
  import { touches } from '$lib/shared/touch';
  import { onDestroy, onMount, untrack } from 'svelte';
  import FrameMenu from '$lib/build/FrameMenu.svelte';
  import type { LayoutAnswer, LayoutTask } from './layout';
  import { roleMay } from '$lib/shared/rights';
  import { mapLooks, MapLooks, type MapLook } from './looks.svelte';
  import { MapModel, NAME } from './map-model.svelte';
  import MapBar from './MapBar.svelte';
  import MapOverview from './MapOverview.svelte';
  import { inksOf, isFar, type Drawn } from './paint';
  import type { PaintTask } from './paint.worker';
  import { FramePictures } from './pictures';
  import { Since } from './since.svelte';
  import { nearestTo } from './routes';
  import { centredOn, fitted, isSeen, onMap, zoomed, type View } from './view';

  const session = useSession();
  const looks = new MapLooks(session);
  /** What was done by links is for those who may make them. */
  const { reviewed, ...own } = mapLooks;
  const shownLooks: Partial<typeof mapLooks> = roleMay(session.role, 'see links') ? { ...own, reviewed } : own;
  const wantedReview = new URLSearchParams(location.search).get('results');
  if (wantedReview) void looks.readReview(wantedReview);
  const since = new Since(session);
  const model = new MapModel(session, looks, since);
  const desk = getDesk();

  const worker = new Worker(new URL('./layout.worker.ts', import.meta.url), { type: 'module' });
  let asked = 0;
  let width = $state(1000);
  let height = $state(700);
  /** Null while all of it is seen. */
  let chosen: View | null = $state.raw(null);
  let isMoving = $state(false);

  let ground: HTMLElement;
  let canvas: HTMLCanvasElement;
  let drawing: { layer: string; from: string; x: number; y: number; toX: number; toY: number; over: string | null } | null = $state.raw(null);
  let menu: { readonly id: string; readonly anchor: HTMLElement } | null = $state.raw(null);

  worker.onmessage = ({ data }: MessageEvent<LayoutAnswer>) => {
    if (data.version === asked) model.layout = data;
  };
  const painter = new Worker(new URL('./paint.worker.ts', import.meta.url), { type: 'module' });
  const tell = (task: PaintTask, transfer: Transferable[] = []) => painter.postMessage(task, transfer);
  const pictures = new FramePictures(session.assetUrl, (frame, picture) => tell({ about: 'picture', frame, picture }, [picture]));
  onDestroy(() => {
    worker.terminate();
    painter.terminate();
    pictures.end();
  });

  // The map is laid out anew only when frames come, go, change size, or lead elsewhere.
  $effect(() => {
    const [frames, links, start, under] = JSON.parse(model.shape) as [
      [string, number, number, string | null][],
      string[],
      string[],
      [string, string][],
    ];
    const task: LayoutTask = {
      version: ++asked,
      frames: frames.map(([id, wide, high, bundle]) => ({ id, width: wide, height: high + NAME, bundle })),
      links: links.map((link) => link.split(' ') as [string, string]),
      start,
      under: new Map(under),
    };
    worker.postMessage(task);
  });

  const all = $derived.by(() => {
    const view = fitted(model.whole, { width, height: height - 56 });
    return { ...view, x: view.x - model.whole.x * view.scale, y: view.y - model.whole.y * view.scale };
  });
  const view = $derived(chosen ?? all);
  /** What does not change while the map is only moved. */
  const scale = $derived(view.scale);
  const isAllFolded = $derived(isFar({ cloths: model.cloths, sheets: model.sheets, view: { x: 0, y: 0, scale } }));
  const least = $derived(Math.min(0.08, all.scale));

  $effect(() => {
    if (model.sieve.unwalked) looks.know();
  });
  $effect(() => {
    // Asked anew whenever the walk has come further.
    void [session.audit, session.auditIsCurrent];
    if (looks.look === 'steps') looks.ask();
    untrack(() => since.look());
  });

  const drawnNow = (): Drawn => ({
    cloths: model.cloths,
    strands: model.strands,
    seams: model.seams,
    sheets: model.sheets,
    inks: inksOf(ground),
  });

  let theme = $state(0);
  onMount(() => {
    const drawnOn = canvas.transferControlToOffscreen();
    tell({ about: 'canvas', canvas: drawnOn }, [drawnOn]);
    // The theme is an attribute of the page.
    const watch = new MutationObserver(() => theme++);
    watch.observe(document.documentElement, { attributes: true });
    return () => watch.disconnect();
  });
  $effect(() => {
    void theme;
    if (model.layout) tell({ about: 'map', ...drawnNow() });
  });
  $effect(() => tell({ about: 'pointed', lit: model.lit, drawn: drawing, hovered: model.hovered, target: drawing?.over ?? null }));
  $effect(() => tell({ about: 'seen', view, width, height, sharpness: devicePixelRatio, isMoving }));
  $effect(() => {
    pictures.keepOnly(session.program.frames);
    tell({ about: 'frames', frames: session.program.frames });
  });
  // Frames are painted as they come into view, once it rests.
  $effect(() => {
    if (isMoving) return;
    for (const [id, box] of model.seen)
      if (isSeen(view, { width, height }, box, 100)) pictures.ask(model.program, id, view.scale * model.sizes.get(id)!.scale * devicePixelRatio);
  });

  async function onPaper(how: 'svg' | 'print') {
    const { head } = session.piece;
    const title = `${head.name} - map`;
    try {
      const { mapAsSvg, printSvg } = await import('./print');
      const svg = await mapAsSvg({
        program: model.program,
        title,
        drawn: drawnNow(),
        whole: model.whole,
        scaleOf: (id) => model.sizes.get(id)!.scale,
        assetUrl: session.assetUrl,
      });
      if (how === 'svg') download(new Blob([svg], { type: 'image/svg+xml' }), `${title}.svg`);
      else printSvg(svg, title);
    } catch (error) {
      session.notify(`The map could not be drawn on paper: ${error instanceof Error ? error.message : String(error)}`);
    }
  }

  let resting: ReturnType<typeof setTimeout> | undefined;
  function look(next: View) {
    chosen = next;
    if (!isMoving) pictures.pause();
    isMoving = true;
    clearTimeout(resting);
    resting = setTimeout(() => (isMoving = false), 140);
  }
  onDestroy(() => clearTimeout(resting));

  const zoomTo = (to: number, x = width / 2, y = height / 2) => look(zoomed(view, to, least, x, y));

  const takeBack = desk.lend({
    zoom: (to) => {
      if (to === 'fit') chosen = null;
      else zoomTo(to === 'whole' ? 1 : view.scale * (to === 'in' ? 1.25 : 0.8));
    },
  });
  onDestroy(takeBack);

  function wheel(event: WheelEvent) {
    event.preventDefault();
    const box = ground.getBoundingClientRect();
    if (event.ctrlKey || event.metaKey) zoomTo(view.scale * Math.exp(-event.deltaY / 300), event.clientX - box.left, event.clientY - box.top);
    else look({ ...view, x: view.x - event.deltaX, y: view.y - event.deltaY });
  }

  const pointOf = (event: PointerEvent | MouseEvent) => {
    const box = ground.getBoundingClientRect();
    return onMap(view, event.clientX - box.left, event.clientY - box.top);
  };

  const frameAt = (x: number, y: number): string | null => {
    for (const [id, box] of model.seen) if (x >= box.x && y >= box.y && x <= box.x + box.width && y <= box.y + box.height) return id;
    return null;
  };

  /** So near a ribbon is pointed at, CSS px of the screen. */
  const NEAR = 7;

  function point(event: PointerEvent) {
    if (event.buttons !== 0 || (event.target as HTMLElement).closest('.pop')) return;
    const at = pointOf(event);
    const frame = frameAt(at.x, at.y) ?? (event.target as HTMLElement).closest<HTMLElement>('[data-carry]')?.dataset['carry'] ?? null;
    model.hovered = frame;
    if (frame !== null) return void (model.pointed = null);
    const ribbon = nearestTo(model.routes, at.x, at.y, NEAR / view.scale);
    if (ribbon || model.pointed) model.pointed = ribbon && { ribbon, x: event.clientX, y: event.clientY };
  }

  /** What moves less is a tap, CSS px; two taps within so many ms are one act. */
  const [STILL, TWICE] = [4, 400];
  let tapped = { id: '', at: 0 };

  /** A finger moves the map from wherever it is put down; a tap on a frame shows the layers to draw from. */
  const holdsStill = (event: PointerEvent) =>
    event.pointerType === 'touch' ? '[data-source], [data-carry], .pop' : '[data-frame], [data-source], [data-carry], .pop';

  function pinch(from: { x: number; y: number }, to: { x: number; y: number }, factor: number) {
    const { left, top } = ground.getBoundingClientRect();
    const moved = { ...view, x: view.x + to.x - from.x, y: view.y + to.y - from.y };
    look(zoomed(moved, moved.scale * factor, least, to.x - left, to.y - top));
  }

  /** What can be done with a frame, or with those chosen that it is one of. */
  function askFor(frame: HTMLElement) {
    const id = frame.dataset['frame']!;
    if (!session.frameSelection.includes(id)) session.openScene(id);
    menu = { id, anchor: frame };
  }

  /** The same for one under a finger that rests. */
  function hold(event: PointerEvent) {
    const frame = (event.target as HTMLElement).closest<HTMLElement>('[data-frame]');
    if (frame) askFor(frame);
  }

  function drag(event: PointerEvent) {
    if (event.button !== 0 || (event.target as HTMLElement).closest(holdsStill(event))) return;
    const from = { x: event.clientX - view.x, y: event.clientY - view.y };
    const frame = (event.target as HTMLElement).closest<HTMLElement>('[data-frame]');
    let moved = false;
    followPointer(event, {
      move: (next) => {
        moved ||= Math.hypot(next.clientX - event.clientX, next.clientY - event.clientY) > STILL;
        if (moved) look({ ...view, x: next.clientX - from.x, y: next.clientY - from.y });
      },
      done: (last) => frame && !moved && last && tap(last, frame),
    });
  }

  /** A tap on a frame chooses it, a second one at once opens it. */
  function tap(event: PointerEvent, frame: HTMLElement) {
    const id = frame.dataset['frame']!;
    const isSecond = tapped.id === id && event.timeStamp - tapped.at < TWICE;
    tapped = { id, at: event.timeStamp };
    frame.focus();
    if (isSecond) open(id);
    else pick(event, id);
  }

  const sources = $derived.by(() => {
    const scene = model.hovered !== null && session.canEdit ? session.program.scenes.get(model.hovered) : undefined;
    return scene?.items.filter((item) => item.shown && item.layer.type !== 'picture' && !item.parent).slice(-60) ?? [];
  });

  /** Wires by drawing: from a layer to the frame where the stitch is let go. */
  function sew(event: PointerEvent, layer: string, from: string) {
    if (event.button !== 0) return;
    event.preventDefault();
    event.stopPropagation();
    const begin = pointOf(event);
    drawing = { layer, from, ...begin, toX: begin.x, toY: begin.y, over: null };
    followPointer(event, {
      move: (next) => {
        const at = pointOf(next);
        const over = frameAt(at.x, at.y);
        drawing = { layer, from, ...begin, toX: at.x, toY: at.y, over: over === from ? null : over };
      },
      done: (last) => {
        const target = last ? drawing?.over : null;
        drawing = null;
        if (target) session.edit(`Lead to ${session.piece.scenes.get(target)?.name}`, wireTo(session.piece, [layer], target, newId));
      },
    });
  }

  /** Puts a frame, and those selected with it, somewhere by hand. */
  function carry(event: PointerEvent, id: string) {
    if (event.button !== 0 || !session.canEdit) return;
    event.stopPropagation();
    const ids = withSelected(id);
    // What is seen stays where it is, however far it is carried.
    chosen = view;
    const [x, y] = [event.clientX, event.clientY];
    followPointer(event, {
      move: (next) => (model.carried = { ids, dx: (next.clientX - x) / view.scale, dy: (next.clientY - y) / view.scale }),
      done: (last) => {
        const isPut = last !== null && model.carried !== null;
        const places = isPut ? placesOf(ids, 0, 0) : [];
        model.carried = null;
        place(ids, places);
      },
    });
  }

  const withSelected = (id: string): readonly string[] => (session.frameSelection.includes(id) ? session.frameSelection : [id]);

  /** Where frames are seen just now and a little from there, as where they shall stand. */
  const placesOf = (ids: readonly string[], dx: number, dy: number) =>
    ids.flatMap((id): Operation[] => {
      const box = model.boxes.get(id);
      const value = box && { x: Math.round(box.x + dx), y: Math.round(box.y + dy) };
      return value ? [{ op: 'set', table: 'scenes', id, path: ['onMap'], value }] : [];
    });

  function place(ids: readonly string[], places: readonly Operation[]) {
    const what = ids.length > 1 ? `${ids.length} frames` : session.piece.scenes.get(ids[0]!)?.name;
    session.edit(`Place ${what} on the map`, places, 'plain');
  }

  const arrange = () =>
    session.edit(
      'Arrange the map by flow',
      model.placed.map((id): Operation => ({ op: 'set', table: 'scenes', id, path: ['onMap'] })),
      'plain'
    );

  function pick(event: MouseEvent, id: string) {
    const { frameSelection } = session;
    if (event.ctrlKey || event.metaKey || event.shiftKey)
      session.frameSelection = frameSelection.includes(id) ? frameSelection.filter((one) => one !== id) : [...frameSelection, id];
    else session.openScene(id);
  }

  function open(id: string) {
    session.openScene(id);
    void goto(`/p/${session.id}/build`);
  }

  /** To the middle of the desk, large enough to be read. */
  function come(id: string) {
    model.bringOut(id);
    const box = model.boxes.get(id);
    if (!box) return;
    const near = { ...view, scale: Math.max(view.scale, 0.7) };
    look(centredOn(near, { width, height }, box.x + box.width / 2, box.y + box.height / 2));
    model.hovered = id;
  }

  const ways = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] } as const;

  /** How far Alt and an arrow put a frame, on the map; the second with Shift. */
  const PUT = [20, 100] as const;

  /** Arrows go to the frame that stands next in their direction; with Alt they put the frame there. */
  function key(event: KeyboardEvent, id: string) {
    if (event.key === 'Enter') {
      event.preventDefault();
      return open(id);
    }
    const direction = ways[event.key as keyof typeof ways] as readonly [number, number] | undefined;
    const from = model.boxes.get(id);
    if (!direction || !from) return;
    event.preventDefault();
    event.stopPropagation();
    if (event.altKey) {
      if (!session.canEdit) return;
      chosen = view;
      const far = PUT[event.shiftKey ? 1 : 0];
      const ids = withSelected(id);
      return place(ids, placesOf(ids, direction[0] * far, direction[1] * far));
    }
    let next: string | null = null;
    let least = Infinity;
    for (const [other, box] of model.seen) {
      const [dx, dy] = [box.x - from.x, box.y - from.y];
      const along = dx * direction[0] + dy * direction[1];
      const aside = Math.abs(dx * direction[1]) + Math.abs(dy * direction[0]);
      if (other !== id && along > 1 && along + 2 * aside < least) [next, least] = [other, along + 2 * aside];
    }
    if (next) ground.querySelector<HTMLElement>(`[data-frame="${next}"]`)?.focus();
  }

  function reveal(id: string) {
    const box = model.boxes.get(id);
    model.hovered = id;
    if (!box) return;
    const [x, y] = [(box.x + box.width / 2) * view.scale + view.x, (box.y + box.height / 2) * view.scale + view.y];
    if (x < 0 || y < 0 || x > width || y > height - 50) look(centredOn(view, { width, height }, box.x + box.width / 2, box.y + box.height / 2));
  }

  const about = $derived(model.hovered === null ? [] : model.marksOn(model.hovered));
</script>

<main
  bind:this={ground}
  bind:clientWidth={width}
  bind:clientHeight={height}
  class="linen-ground relative h-full touch-none overflow-hidden"
  aria-label="Map"
  onwheel={wheel}
  onpointerdown={drag}
  onpointermove={point}
  onpointerleave={() => (model.pointed = null)}
  {@attach touches({ pinch, hold })}
  data-map
>
  <canvas
    bind:this={canvas}
    class="pointer-events-none absolute inset-0 h-full w-full"
    aria-hidden="true"
    data-strands={model.strands.length}
    data-walked={model.strands.filter((strand) => strand.isWalked).length}
    data-lit={model.lit.length}
    data-faint={model.faint.size}
  ></canvas>
  {#if model.layout}
    <div
      class="absolute left-0 top-0 h-0 w-0 origin-top-left will-change-transform"
      style:transform="translate({view.x}px, {view.y}px) scale({view.scale})"
    >
      {#if !isAllFolded}
        {#each model.cloths as { bundle, name, box, isFolded, frames } (bundle)}
          <button
            class="chip absolute origin-top-left"
            style:left="{box.x}px"
            style:top="{box.y}px"
            style:transform="scale({1 / scale}) translate(-28px, -12px)"
            aria-expanded={!isFolded}
            aria-label="{name}, {count(frames, 'frame')}"
            title={isFolded ? `Unfold ${name}` : `Fold ${name}`}
            data-fold={bundle}
            onpointerdown={(event) => event.stopPropagation()}
            onclick={() => model.folded.fold([bundle], !isFolded)}>{isFolded ? '▸' : '▾'}</button
          >
        {/each}
      {/if}
      {#each session.program.frames as id, at (id)}
        {@const { scene } = session.program.scenes.get(id)!}
        {@const box = model.seen.get(id)}
        {@const note = looks.noteOn(id)}
        {#if box}
          <button
            class="absolute"
            style:left="{box.x}px"
            style:top="{box.y}px"
            style:width="{box.width}px"
            style:height="{box.height}px"
            aria-label="{scene.name}, frame {at + 1}{note ? `, ${note.text}` : ''}"
            data-frame={id}
            onfocus={() => reveal(id)}
            onclick={(event) => pick(event, id)}
            ondblclick={() => open(id)}
            oncontextmenu={(event) => {
              event.preventDefault();
              askFor(event.currentTarget);
            }}
            onkeydown={(event) => key(event, id)}
          ></button>
        {/if}
      {/each}
      {#if model.hovered !== null && !drawing && model.seen.has(model.hovered)}
        {@const box = model.boxes.get(model.hovered)!}
        {@const size = model.sizes.get(model.hovered)!}
        {@const id = model.hovered}
        {#each sources as item (item.layer.id)}
          <!-- svelte-ignore a11y_no_static_element_interactions -->
          <span
            class="absolute cursor-crosshair rounded-[3px] border border-dashed border-[var(--gold)] hover:bg-[color-mix(in_srgb,var(--gold)_30%,transparent)]"
            style:left="{box.x + item.box.x * size.scale}px"
            style:top="{box.y + item.box.y * size.scale}px"
            style:width="{Math.max(6, item.box.width * size.scale)}px"
            style:height="{Math.max(6, item.box.height * size.scale)}px"
            title="Draw a stitch from {item.layer.name}"
            data-source={item.layer.id}
            onpointerdown={(event) => sew(event, item.layer.id, id)}
            ondblclick={() => open(id)}
          ></span>
        {/each}
        {#if session.canEdit}
          <!-- svelte-ignore a11y_no_static_element_interactions -->
          <span
            class="absolute cursor-grab"
            style:left="{box.x}px"
            style:top="{box.y + box.height}px"
            style:width="{Math.max(box.width, 80 / view.scale)}px"
            style:height="{22 / view.scale}px"
            title="Pull {session.program.scenes.get(id)!.scene.name} to where it shall stand"
            data-carry={id}
            onpointerdown={(event) => carry(event, id)}
          ></span>
        {/if}
      {/if}
    </div>
    <MapBar
      {session}
      frames={session.program.frames.length}
      stitches={model.web.stitches.length}
      found={model.isWhole ? null : model.found.length}
      bind:sieve={model.sieve}
      {since}
      bind:everyStitch={model.everyStitch}
      bind:focusSteps={model.focusSteps}
      hubs={model.web.ribbons.some(({ isToHub }) => isToHub)}
      placed={model.placed.length}
      look={looks.look}
      reviewWords={looks.reviewWords}
      looks={shownLooks}
      onlook={(next: MapLook) => (looks.look = next)}
      onfit={() => (chosen = null)}
      onfound={() => model.found[0] !== undefined && come(model.found[0])}
      onarrange={arrange}
      onpaper={(how) => void onPaper(how)}
    />
    {#if session.program.frames.length > 12}<MapOverview
        boxes={model.boxes}
        whole={model.whole}
        {view}
        faint={model.faint}
        desk={{ width, height }}
        onlook={look}
      />{/if}
    {#if model.way}<p class="pop absolute left-3 top-3 max-w-[70%] px-3 py-1.5" data-way>{model.way.words}</p>
    {:else if about.length}<ul class="pop pointer-events-none absolute left-3 top-3 max-w-[46%] px-3 py-1.5" data-about>
        {#each about.slice(0, 8) as mark (mark.meaning)}<li><b>{mark.words}</b> <span class="soft">{mark.meaning}</span></li>{/each}
        {#if about.length > 8}<li class="soft">and {about.length - 8} more</li>{/if}
      </ul>{/if}
    {#if model.pointed}
      <ul
        class="pop pointer-events-none fixed z-30 max-w-[420px] px-2.5 py-1.5"
        style:left="{Math.min(model.pointed.x + 14, innerWidth - 430)}px"
        style:top="{Math.min(model.pointed.y + 14, innerHeight - 140)}px"
        data-pointed
      >
        {#each model.pointed.ribbon.stitches.slice(0, 6) as stitch, i (i)}<li class="truncate">{stitch.words}</li>{/each}
        {#if model.pointed.ribbon.stitches.length > 6}<li class="soft">and {model.pointed.ribbon.stitches.length - 6} more</li>{/if}
      </ul>
    {/if}
  {:else}
    <p class="soft p-6">Laying out the map…</p>
  {/if}
  {#if session.program.frames.length === 0}<p class="absolute inset-0 grid place-items-center text-[15px]">
      No frame yet: bring in pages at the Build desk.
    </p>{/if}
</main>
{#if menu}<FrameMenu {session} id={menu.id} anchor={menu.anchor} onopen={open} onclose={() => (menu = null)} />{/if}
