<script lang="ts">
  import {
    setLetters,
    isOn,
    moveLayers,
    overlaps,
    resizeLayers,
    stillScreen,
    union,
    type Item,
    type Operation,
    type Point,
    type Rect,
    layerKind,
  } from '@zany/core';
  import { onDestroy, tick } from 'svelte';
  import { getDesk } from '$lib/shared/desk.svelte';
  import { isTyping } from '$lib/shared/focus';
  import { followPointer } from '$lib/shared/follow';
  import type { ScreenView } from '@zany/player';
  import { sceneView } from '$lib/shared/sceneView';
  import { touches } from '$lib/shared/touch';
  import type { EditorSession } from '$lib/client/session.svelte';
  import { FRAME_TYPE, drawLayer, duplicate, leadFromHere, noteStep, placeHere, writeText, writtenText } from './acts';
  import { cursorOf, HANDLES, placeOf, pullSnapped, type Handle } from './handles';
  import { poseOfLook } from './look-poses';
  import { snapEdge, snapMove, type Guide } from './snap';
  import { angleFrom } from './measure';
  import Reference from './Reference.svelte';
  import { SceneReference } from './scene-reference.svelte';
  import StageMarks from './StageMarks.svelte';
  import StageComments from './StageComments.svelte';
  import StageMedia from './StageMedia.svelte';
  import StageMotion from './StageMotion.svelte';
  import StageOnion from './StageOnion.svelte';
  import StageOthers from './StageOthers.svelte';
  import StageStitches from './StageStitches.svelte';
  import StageVeiled from './StageVeiled.svelte';
  import type { Tool } from './tools';

  interface Props {
    session: EditorSession;
    tool: Tool;
    /** It goes on drawing what it has drawn one of. */
    keepsTool: boolean;
    zoom: number | 'fit';
    showHits: boolean;
  }
  let { session, tool = $bindable(), keepsTool, zoom = $bindable(), showHits }: Props = $props();

  let width = $state(600);
  let height = $state(500);
  let ground: HTMLElement;
  let picture: ScreenView | null = $state.raw(null);
  let sheet: HTMLElement | undefined = $state();
  let guides: readonly Guide[] = $state.raw([]);
  let marquee: Rect | null = $state.raw(null);
  let typing: string | null = $state(null);
  const desk = getDesk();
  onDestroy(() => (session.isPulled = false));
  // svelte-ignore state_referenced_locally
  const reference = new SceneReference(session.id, () => session.sceneId);

  /** Lays a picture under or over the scene, to trace it or to compare. */
  export function compareWith(file: File) {
    reference.lay(file);
  }

  const scene = $derived(session.scene);
  const fitted = $derived(scene ? Math.min(2, (width - 64) / scene.scene.width, (height - 64) / scene.scene.height) : 1);
  const scale = $derived(zoom === 'fit' ? Math.max(0.05, fitted) : zoom);
  const selected = $derived(session.selection.flatMap((id) => scene?.byId.get(id) ?? []));
  const around = $derived(union(selected.map((item) => item.box)));
  const isFixed = $derived(selected.length > 0 && selected.every((item) => item.layer.locked));
  const hits = $derived(
    scene?.items.filter(
      (item) => item.shown && (item.layer.type === 'hit' || (showHits && item.threads.some((thread) => thread.cue.type === 'click')))
    ) ?? []
  );
  /** Around a scene that is zoomed there is room to move it anywhere. */
  const padOf = (view: number, size: number) => Math.round(Math.max(48, (view - size) / 2, zoom === 'fit' ? 0 : view * 0.75));
  const padX = $derived(padOf(width, (scene?.scene.width ?? 0) * scale));
  const padY = $derived(padOf(height, (scene?.scene.height ?? 0) * scale));

  const pointOf = (event: PointerEvent | MouseEvent): Point => {
    const box = sheet!.getBoundingClientRect();
    return { x: (event.clientX - box.left) / scale, y: (event.clientY - box.top) / scale };
  };

  /** The frontmost layer at a point that can be picked: a group as a whole, unless its inside was opened or is asked for. */
  function pickAt(point: Point, deep: boolean): Item | null {
    for (const item of [...(scene?.items ?? [])].reverse()) {
      if (!item.shown || item.layer.locked || item.layer.type === 'group' || !isOn(item, point)) continue;
      return deep ? item : outerOf(item);
    }
    return null;
  }

  function outerOf(item: Item): Item {
    const parents = selected.map((one) => one.layer.parent);
    const opened = new Set(parents);
    let at = item;
    while (at.parent && !opened.has(at.layer.parent) && !at.parent.layer.locked) at = at.parent;
    return at;
  }

  /** What the pointer is over with Alt held down, to be measured to. */
  let measured: Rect | null = $state.raw(null);

  function measure(event: PointerEvent) {
    if (!event.altKey || event.buttons !== 0 || !around || !scene || !sheet) {
      if (measured) measured = null;
      return;
    }
    const item = pickAt(pointOf(event), true);
    measured = item && !session.selection.includes(item.layer.id) ? item.box : { x: 0, y: 0, width: scene.scene.width, height: scene.scene.height };
  }

  /** Turns the one selected layer about its anchor; with Shift by steps of 15 degrees. */
  function turn(event: PointerEvent) {
    event.stopPropagation();
    const item = selected[0];
    if (!item || !session.canEdit) return;
    const { anchor = { x: 0.5, y: 0.5 } } = item.layer.pose;
    const middle = { x: item.box.x + item.box.width * anchor.x, y: item.box.y + item.box.height * anchor.y };
    let to = item.layer.pose.rotation ?? 0;
    const operations = (): Operation[] => [
      { op: 'set', table: 'layers', id: item.layer.id, path: ['pose', 'rotation'], ...(to !== 0 && { value: to }) },
    ];
    follow(
      event,
      (next, point) => {
        session.isPulled = true;
        to = angleFrom(middle, point, next.shiftKey ? 15 : 0);
        session.preview(operations());
      },
      (_, moved) => {
        session.preview(null);
        if (moved) session.edit(`Turn ${item.layer.name}`, operations());
      }
    );
  }

  const clamp = (n: number) => Math.round(n);

  /** Follows the pointer until it is let go; what is called off on the way has done nothing. */
  function follow(event: PointerEvent, move: (event: PointerEvent, point: Point) => void, done: (event: PointerEvent, moved: boolean) => void) {
    let moved = false;
    followPointer(event, {
      on: ground,
      move: (next) => {
        moved ||= Math.hypot(next.clientX - event.clientX, next.clientY - event.clientY) > 3;
        if (moved) move(next, pointOf(next));
      },
      done: (last) => {
        guides = [];
        session.isPulled = false;
        if (last) return done(last, moved);
        marquee = null;
        session.preview(null);
      },
    });
  }

  /** With the space bar held, or the middle button, the stage itself is moved. */
  let panning = $state(false);

  const isAtRest = (event: KeyboardEvent) => event.target === document.body || (event.target instanceof Node && ground.contains(event.target));

  function holdSpace(event: KeyboardEvent) {
    if (event.code !== 'Space' || isTyping(event.target) || !isAtRest(event)) return;
    event.preventDefault();
    panning = event.type === 'keydown';
  }

  function pan(event: PointerEvent, tap?: () => void) {
    event.preventDefault();
    const begin = { x: ground.scrollLeft + event.clientX, y: ground.scrollTop + event.clientY };
    follow(
      event,
      (next) => ground.scrollTo(begin.x - next.clientX, begin.y - next.clientY),
      (_, moved) => !moved && tap?.()
    );
  }

  function press(event: PointerEvent) {
    if (!scene || (event.target as HTMLElement).closest('[data-bar]')) return;
    if (event.button === 1 || (panning && event.button === 0)) return pan(event);
    if (event.button !== 0) return;
    (document.activeElement as HTMLElement | null)?.blur?.();
    typing = null;
    if (tool !== 'select' && session.canEdit) return draw(event, tool);
    const point = pointOf(event);
    const hit = pickAt(point, event.ctrlKey || event.metaKey);
    if (!hit) return event.pointerType === 'touch' ? pan(event, () => session.select([])) : pressEmpty(event, point);
    const { id } = hit.layer;
    const wasChosen = session.selection.includes(id);
    if (!wasChosen) session.select(event.shiftKey ? [...session.selection, id] : [id]);
    // One of several is chosen alone, or with Shift left out, only if nothing is dragged by it.
    const click = () => wasChosen && session.select(event.shiftKey ? session.selection.filter((other) => other !== id) : [id]);
    drag(event, point, click);
  }

  function others(): Rect[] {
    const chosen = new Set(session.selection);
    const rects = scene!.items
      .filter((item) => item.shown && item.parent === null && !chosen.has(item.layer.id) && item.layer.type !== 'picture')
      .map((item) => item.box);
    return [{ x: 0, y: 0, width: scene!.scene.width, height: scene!.scene.height }, ...rects];
  }

  function drag(event: PointerEvent, from: Point, click: () => void) {
    const begin = union(session.selection.flatMap((id) => scene!.byId.get(id)?.box ?? []));
    if (!begin) return;
    const near = others();
    const movable = session.canEdit ? session.selection.filter((id) => !session.piece.layers.get(id)?.locked) : [];
    let by = { x: 0, y: 0 };
    follow(
      event,
      (next, point) => {
        if (!movable.length) return;
        session.isPulled = true;
        let dx = point.x - from.x;
        let dy = point.y - from.y;
        if (next.shiftKey) [dx, dy] = Math.abs(dx) > Math.abs(dy) ? [dx, 0] : [0, dy];
        const snapped = snapMove({ ...begin, x: begin.x + dx, y: begin.y + dy }, next.altKey ? [...near, begin] : near, 5 / scale);
        guides = snapped.guides;
        by = { x: clamp(begin.x + dx + snapped.dx) - begin.x, y: clamp(begin.y + dy + snapped.dy) - begin.y };
        session.preview(moveLayers(session.settled.piece, movable, by.x, by.y));
      },
      (next, moved) => {
        session.preview(null);
        if (!moved) return click();
        if (by.x === 0 && by.y === 0) return;
        if (next.altKey) return duplicate(session, by);
        const name = movable.length === 1 ? session.piece.layers.get(movable[0]!)!.name : `${movable.length} layers`;
        session.edit(`Move ${name}`, moveLayers(session.settled.piece, movable, by.x, by.y));
        noteStep(movable, by.x, by.y);
      }
    );
  }

  function pressEmpty(event: PointerEvent, from: Point) {
    const before = event.shiftKey ? session.selection : [];
    follow(
      event,
      (_, point) => {
        marquee = {
          x: Math.min(from.x, point.x),
          y: Math.min(from.y, point.y),
          width: Math.abs(point.x - from.x),
          height: Math.abs(point.y - from.y),
        };
        const inside = scene!.items
          .filter((item) => item.parent === null && item.shown && !item.layer.locked && overlaps(item.box, marquee!))
          .map((item) => item.layer.id);
        session.select([...new Set([...before, ...inside])]);
      },
      (_, moved) => {
        marquee = null;
        if (!moved && !event.shiftKey) session.select([]);
      }
    );
  }

  function resize(event: PointerEvent, handle: Handle) {
    event.stopPropagation();
    if (!around || !session.sceneId || !session.canEdit) return;
    const begin = around;
    const from = pointOf(event);
    const near = others();
    const ids = [...session.selection];
    let to = begin;
    follow(
      event,
      (next, point) => {
        session.isPulled = true;
        const pulled = pullSnapped(begin, handle, point.x - from.x, point.y - from.y, next.shiftKey, near, 5 / scale);
        to = pulled.box;
        guides = pulled.guides;
        session.preview(resizeLayers(session.settled, session.sceneId!, ids, begin, to));
      },
      (_, moved) => {
        session.preview(null);
        if (moved) session.edit('Resize', resizeLayers(session.settled, session.sceneId!, ids, begin, to));
      }
    );
  }

  const defaults: Record<Exclude<Tool, 'select'>, { width: number; height: number }> = {
    box: { width: 160, height: 48 },
    oval: { width: 64, height: 64 },
    text: { width: 200, height: 28 },
    hit: { width: 120, height: 48 },
    field: { width: 220, height: 44 },
  };

  function draw(event: PointerEvent, type: Exclude<Tool, 'select'>) {
    const from = pointOf(event);
    const near = others();
    let box: Rect | null = null;
    follow(
      event,
      (next, point) => {
        const x = snapEdge(point.x, near, 'x', 5 / scale);
        const y = snapEdge(point.y, near, 'y', 5 / scale);
        guides = [x.guide, y.guide].filter((guide) => guide !== null);
        let wide = x.value - from.x;
        let high = y.value - from.y;
        if (next.shiftKey) wide = Math.sign(wide || 1) * (Math.abs(high) > Math.abs(wide) ? Math.abs(high) : Math.abs(wide));
        if (next.shiftKey) high = Math.sign(high || 1) * Math.abs(wide);
        box = { x: Math.min(from.x, from.x + wide), y: Math.min(from.y, from.y + high), width: Math.abs(wide), height: Math.abs(high) };
        marquee = box;
      },
      () => {
        marquee = null;
        const size = defaults[type];
        const around = { x: from.x - size.width / 2, y: from.y - size.height / 2, ...size };
        const good = box && box.width > 4 && box.height > 4 ? box : type === 'text' ? lineAt(from) : around;
        const id = drawLayer(session, type, good);
        if (!keepsTool) tool = 'select';
        if (id && type === 'text') typing = id;
      }
    );
  }

  /** Where words that are pointed at begin: there, or where the frame has room for them. */
  function lineAt({ x, y }: Point): Rect {
    const { width, height } = defaults.text;
    const most = scene?.scene.width ?? width;
    return { x: Math.min(x, Math.max(0, most - width)), y: Math.max(0, y - height / 2), width: Math.min(width, most), height };
  }

  /** A text where nothing is, to be written at once. */
  function writeAt({ x, y }: Point) {
    if (!scene || x < 0 || y < 0 || x > scene.scene.width || y > Math.max(scene.scene.height, scene.scene.contentHeight ?? 0)) return;
    const id = drawLayer(session, 'text', lineAt({ x, y }));
    if (id) typing = id;
  }

  /** As large as the selection can be shown, with it in the middle. */
  export function zoomToSelection() {
    if (!around) return;
    zoom = Math.max(0.1, Math.min(8, (width - 120) / around.width, (height - 120) / around.height));
    const middle = { x: around.x + around.width / 2, y: around.y + around.height / 2 };
    void tick().then(() => {
      ground.scrollLeft = padX + middle.x * scale - width / 2;
      ground.scrollTop = padY + middle.y * scale - height / 2;
    });
  }

  /** What the tool draws, in its usual size in the middle: for those who draw with keys. */
  export function drawInMiddle() {
    if (!scene || tool === 'select') return;
    const { width, height } = defaults[tool];
    const id = drawLayer(session, tool, { x: (scene.scene.width - width) / 2, y: (Math.min(scene.scene.height, 844) - height) / 2, width, height });
    if (id && tool === 'text') typing = id;
    if (!keepsTool) tool = 'select';
  }

  function open(event: MouseEvent) {
    if (!scene || !session.canEdit || (event.target as HTMLElement).closest('[data-bar]')) return;
    const item = pickAt(pointOf(event), true);
    if (!item) return writeAt(pointOf(event));
    if (item.parent && !session.selection.includes(item.layer.id)) return session.select([item.layer.id]);
    if (item.layer.type === 'placement' && item.layer.part !== undefined) return session.enterScene(item.layer.part);
    if (layerKind(item.layer).takesWords) {
      session.select([item.layer.id]);
      typing = item.layer.id;
    }
  }

  /** What can be done with the layer under the pointer, or with the selection it is one of. */
  function menu(event: MouseEvent) {
    if (!scene || !session.canEdit || (event.target as HTMLElement).closest('[data-bar]')) return;
    event.preventDefault();
    const item = pickAt(pointOf(event), event.ctrlKey || event.metaKey);
    if (!item) return;
    if (!session.selection.includes(item.layer.id)) session.select([item.layer.id]);
    desk.menuAt = { x: event.clientX, y: event.clientY };
  }

  function finishTyping(event: Event) {
    const text = (event.currentTarget as HTMLTextAreaElement).value;
    const layer = typing ? scene?.byId.get(typing)?.layer : null;
    typing = null;
    if (layer && text !== writtenText(session, layer)) writeText(session, layer, text);
  }

  const PART_TYPE = 'application/x-zany-part';

  const isTaken = (event: DragEvent) =>
    session.canEdit && !session.trying && [PART_TYPE, FRAME_TYPE].some((type) => event.dataTransfer?.types.includes(type));

  /** A part that is put down is placed there; of a frame, what leads to it is. */
  function dropped(event: DragEvent) {
    if (!sheet || !isTaken(event)) return;
    event.preventDefault();
    const part = event.dataTransfer!.getData(PART_TYPE);
    if (part) placeHere(session, part, pointOf(event));
    else leadFromHere(session, event.dataTransfer!.getData(FRAME_TYPE), pointOf(event));
  }

  function wheel(event: WheelEvent) {
    if (!event.ctrlKey && !event.metaKey) return;
    event.preventDefault();
    const { left, top } = ground.getBoundingClientRect();
    zoomTo(scale * Math.exp(-event.deltaY / 300), { x: event.clientX - left, y: event.clientY - top });
  }

  /** Two fingers move the stage and zoom it. */
  function pinch(from: Point, to: Point, factor: number) {
    const { left, top } = ground.getBoundingClientRect();
    ground.scrollBy(from.x - to.x, from.y - to.y);
    zoomTo(scale * factor, { x: to.x - left, y: to.y - top });
  }

  /** Zooms by a factor, or to one; what is in the middle of the view, or at a point of it, stays there. */
  export function zoomTo(to: number | 'fit', at = { x: width / 2, y: height / 2 }) {
    const point = { x: (ground.scrollLeft + at.x - padX) / scale, y: (ground.scrollTop + at.y - padY) / scale };
    zoom = to === 'fit' ? 'fit' : Math.max(0.1, Math.min(8, to));
    void tick().then(() => to !== 'fit' && ground.scrollTo(padX + point.x * scale - at.x, padY + point.y * scale - at.y));
  }

  export const zoomBy = (factor: number) => zoomTo(scale * factor);

  /** Handles of small layers stand outside, and only at the corners, so that the layer itself can be taken. */
  const isNarrow = (size: number) => size * scale < 32;
  const handles = $derived(
    around ? HANDLES.filter((handle) => handle.length === 2 || !isNarrow(/[ns]/.test(handle) ? around.width : around.height)) : []
  );
  const handleAt = (box: Rect, handle: Handle) => {
    const place = placeOf(handle);
    const out = (share: number, size: number) => size * scale * share - 4.5 + (isNarrow(size) ? (share - 0.5) * 16 : 0);
    return { left: box.x * scale + out(place.x, box.width), top: box.y * scale + out(place.y, box.height) };
  };

  export function startTyping(id: string) {
    typing = id;
  }

  const screen = $derived.by(() => {
    const { sceneId, stateId } = session;
    const look = session.triedLook ?? session.openLook;
    const isOfMany = look !== null && look === session.openLook && look.layers.length > 1;
    return sceneId === null
      ? null
      : stillScreen(session.lookedWith.on(isOfMany ? session.seenProgram : session.program), sceneId, {
          state: stateId,
          ...(session.moment !== null && { frame: session.moment }),
          ...(!isOfMany && poseOfLook(look?.name, look?.layers ?? [])),
        });
  });
</script>

<svelte:window onkeydown={holdSpace} onkeyup={holdSpace} onblur={() => (panning = false)} />
<!-- Clipped, so that the shadow of the bar does not reach onto the columns that scroll beside it. -->
<div class="relative min-h-0 flex-1 overflow-clip">
  <div
    bind:this={ground}
    bind:clientWidth={width}
    bind:clientHeight={height}
    class="linen-ground scroll relative h-full w-full touch-none overflow-auto"
    class:cursor-crosshair={tool !== 'select' && !panning}
    class:cursor-grab={panning}
    role="application"
    aria-label="Stage"
    data-stage
    onpointerdown={press}
    onpointermove={measure}
    ondblclick={open}
    ondragover={(event) => isTaken(event) && event.preventDefault()}
    ondrop={dropped}
    onwheel={wheel}
    oncontextmenu={menu}
    {@attach touches({ pinch, hold: menu })}
  >
    {#if scene}
      <div class="relative" style:width="{scene.scene.width * scale + padX * 2}px" style:height="{scene.scene.height * scale + padY * 2}px">
        <div
          bind:this={sheet}
          data-sheet
          class="absolute shadow-[0_8px_28px_#0000001f]"
          style:left="{padX}px"
          style:top="{padY}px"
          style:width="{scene.scene.width * scale}px"
          style:height="{scene.scene.height * scale}px"
        >
          <div
            class="pointer-events-none absolute left-0 top-0 origin-top-left"
            style:transform="scale({scale})"
            use:sceneView={{
              screen,
              assetUrl: session.assetUrl,
              glides: session.triedLook !== null,
              moves: session.moment !== null,
              rushes: session.rushes || session.playing ? scale * devicePixelRatio : null,
              onview: (view) => (picture = view),
            }}
          ></div>
          {#if scene.scene.draft}<span class="chip chip-ghost absolute left-1/2 top-3 w-max -translate-x-1/2 bg-[var(--sheet)]"
              >draft: still to be drawn</span
            >{/if}

          <StageVeiled {session} {selected} {screen} {scale} />
          <StageMarks {scene} {hits} lit={session.lit} {selected} {around} over={measured} {guides} {marquee} {scale} />
          {#if picture && session.moment !== null}<StageMedia {session} view={picture} {screen} />{/if}
          {#if session.onion && session.moment !== null}<StageOnion {session} {scale} />{/if}
          {#if session.timeline && session.moment !== null && !session.isPulled}<StageMotion
              {selected}
              timeline={session.timeline}
              moment={session.moment}
              {scale}
            />{/if}
          <StageStitches {session} {scale} />
          <StageOthers {session} {scale} />
          <StageComments {session} {scale} />

          {#if around && !isFixed && session.canEdit && !typing}
            {#each handles as handle (handle)}
              {@const place = handleAt(around, handle)}
              <!-- svelte-ignore a11y_no_static_element_interactions -->
              <span
                class="absolute h-[9px] w-[9px] rounded-[3px] border-[1.5px] border-[var(--gold)] bg-[var(--sheet)]"
                style:left="{place.left}px"
                style:top="{place.top}px"
                style:cursor={cursorOf[handle]}
                data-handle={handle}
                onpointerdown={(event) => resize(event, handle)}
              ></span>
            {/each}
          {/if}

          {#if around && selected.length === 1 && !isFixed && session.canEdit && !typing && selected[0]!.layer.type !== 'hit'}
            <!-- svelte-ignore a11y_no_static_element_interactions -->
            <span
              class="absolute h-[11px] w-[11px] cursor-grab rounded-full border-[1.5px] border-[var(--gold)] bg-[var(--sheet)]"
              style:left="{(around.x + around.width) * scale + 10}px"
              style:top="{(around.y + around.height) * scale + 8}px"
              title="Turn; with Shift by 15°"
              data-turn
              onpointerdown={turn}
            ></span>
          {/if}
          {#if reference.picture}
            <Reference
              picture={reference.picture}
              width={scene.scene.width * scale}
              height={scene.scene.height * scale}
              onchange={(next) => reference.change(next)}
              onclose={() => void reference.remove()}
            />
          {/if}
          {#if typing}
            {@const item = scene.byId.get(typing)}
            {#if item}
              {@const letters = setLetters(session.piece.head, item.layer.letters ?? {})}
              <!-- svelte-ignore a11y_autofocus -->
              <textarea
                class="absolute resize-none overflow-hidden bg-[color-mix(in_srgb,var(--sheet)_94%,transparent)] text-[var(--ink)] outline-2 outline-[var(--gold)]"
                style:left="{item.box.x * scale}px"
                style:top="{item.box.y * scale}px"
                style:width="{Math.max(60, item.box.width * scale)}px"
                style:height="{Math.max(24, item.box.height * scale)}px"
                style:font-size="{(letters.size ?? 16) * scale}px"
                style:text-align={letters.align ?? (item.layer.type === 'text' ? 'left' : 'center')}
                value={writtenText(session, item.layer)}
                autofocus
                aria-label="Text of {item.layer.name}"
                onfocus={(event) => event.currentTarget.select()}
                onpointerdown={(event) => event.stopPropagation()}
                onblur={finishTyping}
                onkeydown={(event) => {
                  event.stopPropagation();
                  if (event.key === 'Escape' || (event.key === 'Enter' && !event.shiftKey)) {
                    event.preventDefault();
                    event.currentTarget.blur();
                  }
                }}></textarea>
            {/if}
          {/if}
        </div>
      </div>
    {/if}
  </div>
</div>
