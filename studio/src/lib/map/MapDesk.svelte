<script lang="ts">
  import { goto } from '$app/navigation';
  import { colorOf, wireTo, type SceneProgram } from '@zany/core';
  import { newId } from '$lib/client/ids';
  import { getDesk, useSession } from '$lib/shared/desk.svelte';
  import Thumb from '$lib/shared/Thumb.svelte';
  import { onDestroy } from 'svelte';
  import type { LayoutAnswer, LayoutTask } from './layout';
  import { mapLooks, MapLooks, type MapLook } from './looks.svelte';
  import { stitchesOf } from './stitches';

  const session = useSession();
  const looks = new MapLooks(session);
  const desk = getDesk();

  /** Frames are drawn to fit into this on the map at 100 %. */
  const WIDE = 150;
  const HIGH = 190;

  const worker = new Worker(new URL('./layout.worker.ts', import.meta.url), { type: 'module' });
  let layout = $state.raw<LayoutAnswer | null>(null);
  let asked = 0;
  let width = $state(1000);
  let height = $state(700);
  let zoom: number | null = $state(null);
  let pan = $state({ x: 0, y: 0 });
  /** Among more stitches than this, only those of the frame that is pointed at stand out. */
  const CROWD = 300;

  /** Frames narrower than this on screen are shown as plain sheets. */
  const TINY = 28;

  let ground: HTMLElement;
  let hovered: string | null = $state(null);
  let drawing: { layer: string; from: string; x: number; y: number; toX: number; toY: number; over: string | null } | null = $state.raw(null);

  worker.onmessage = ({ data }: MessageEvent<LayoutAnswer>) => {
    if (data.version === asked) layout = data;
  };
  onDestroy(() => worker.terminate());

  const stitches = $derived(stitchesOf(session.program));
  const sizes = $derived(
    new Map(
      session.program.frames.map((id) => {
        const { scene } = session.program.scenes.get(id)!;
        const scale = Math.min(WIDE / scene.width, HIGH / scene.height);
        return [id, { width: scene.width * scale, height: scene.height * scale, scale }] as const;
      })
    )
  );
  const shape = $derived(
    JSON.stringify([
      session.program.frames.map((id) => [id, sizes.get(id)!.width, sizes.get(id)!.height]),
      [...new Set(stitches.map(({ from, to }) => `${from} ${to}`))],
      session.piece.head.start,
    ])
  );

  // The map is laid out anew only when frames come, go, change size, or lead elsewhere.
  $effect(() => {
    const [frames, links, start] = JSON.parse(shape) as [[string, number, number][], string[], string[]];
    const task: LayoutTask = {
      version: ++asked,
      frames: frames.map(([id, wide, high]) => ({ id, width: wide, height: high + 24 })),
      links: links.map((link) => link.split(' ') as [string, string]),
      start,
    };
    worker.postMessage(task);
  });

  const fitted = $derived(layout ? Math.min(1.4, (width - 40) / layout.width, (height - 40) / layout.height) : 1);
  const least = $derived(Math.min(0.08, fitted));
  const scale = $derived(zoom ?? fitted);
  /** The scale in steps: what is measured by it need not be drawn anew at every turn of the wheel. */
  const step = $derived(1.25 ** Math.round(Math.log(scale) / Math.log(1.25)));
  /** Names keep a size that can be read, as long as there is room for it. */
  const lettering = $derived(Math.min(30, Math.max(12, 11 / step)));
  const isReadable = $derived(lettering * step >= 5);
  /** Knots and eyelets keep a size that can be seen. */
  const dot = $derived(Math.min(2, Math.max(1, 0.8 / step)));
  const sharpness = $derived(Math.min(4, 2 ** Math.ceil(Math.log2(scale))));
  const origin = $derived(zoom === null && layout ? { x: (width - layout.width * scale) / 2, y: (height - layout.height * scale) / 2 } : pan);

  const takeBack = desk.lend({
    zoom: (to) => {
      if (to === 'fit') zoom = null;
      else setZoom(to === 'whole' ? 1 : scale * (to === 'in' ? 1.25 : 0.8), width / 2, height / 2);
    },
  });
  onDestroy(takeBack);

  /** Zooms about a point of the desk. */
  function setZoom(to: number, x: number, y: number) {
    const next = Math.max(least, Math.min(4, to));
    pan = { x: x - ((x - origin.x) / scale) * next, y: y - ((y - origin.y) / scale) * next };
    zoom = next;
  }

  function wheel(event: WheelEvent) {
    event.preventDefault();
    const box = ground.getBoundingClientRect();
    if (event.ctrlKey || event.metaKey) setZoom(scale * Math.exp(-event.deltaY / 300), event.clientX - box.left, event.clientY - box.top);
    else {
      pan = { x: origin.x - event.deltaX, y: origin.y - event.deltaY };
      zoom = scale;
    }
  }

  function drag(event: PointerEvent) {
    if (event.button !== 0 || (event.target as HTMLElement).closest('[data-frame], [data-source], button')) return;
    const from = { x: event.clientX - origin.x, y: event.clientY - origin.y };
    ground.setPointerCapture(event.pointerId);
    const move = (next: PointerEvent) => {
      const held = scale;
      pan = { x: next.clientX - from.x, y: next.clientY - from.y };
      zoom = held;
    };
    ground.addEventListener('pointermove', move);
    ground.addEventListener('pointerup', () => ground.removeEventListener('pointermove', move), { once: true });
  }

  const placeOf = (id: string) => layout?.places.get(id) ?? { x: 0, y: 0 };

  interface Line {
    readonly path: string;
    readonly x: number;
    readonly y: number;
    readonly endX: number;
    readonly endY: number;
  }

  /** From the middle of the very layer to the near side of the frame it leads to. */
  function line(from: string, to: string, box: { x: number; y: number; width: number; height: number } | null): Line {
    const a = placeOf(from);
    const b = placeOf(to);
    const size = sizes.get(from)!;
    const target = sizes.get(to)!;
    const x = a.x + (box ? (box.x + box.width / 2) * size.scale : size.width / 2);
    const y = a.y + (box ? (box.y + box.height / 2) * size.scale : size.height);
    const forward = b.x > a.x + size.width / 2;
    const endX = forward ? b.x : b.x + target.width;
    const endY = b.y + Math.min(target.height / 2, 60);
    const bend = Math.max(40, Math.abs(endX - x) / 2);
    const path = forward
      ? `M${x} ${y} C ${x + bend} ${y}, ${endX - bend} ${endY}, ${endX - 7} ${endY}`
      : `M${x} ${y} C ${x - 10} ${y - bend * 0.5 - 60}, ${endX + bend} ${endY - 60}, ${endX + 7} ${endY}`;
    return { path, x, y, endX: endX + (forward ? -7 : 7), endY };
  }

  const shown = $derived(
    layout
      ? stitches
          .filter(({ from, to }) => layout!.places.has(from) && layout!.places.has(to))
          .map((stitch) => ({ ...stitch, ...line(stitch.from, stitch.to, stitch.box) }))
      : []
  );

  /** Those of the frame that is pointed at stand out. */
  const lit = $derived(
    hovered === null ? [] : shown.filter(({ from, to, thread }) => (way ? way.threads.has(thread.id) : from === hovered || to === hovered))
  );

  /** What the shortest way to the frame that is pointed at fires. */
  const way = $derived(hovered === null ? null : looks.wayTo(hovered));
  $effect(() => {
    // Asked anew whenever the walk has come further.
    void [session.audit, session.auditIsCurrent];
    if (looks.look === 'steps') looks.ask();
  });

  const sources = $derived.by(() => {
    const scene = hovered !== null && session.canEdit ? session.program.scenes.get(hovered) : undefined;
    return scene?.items.filter((item) => item.shown && item.layer.type !== 'picture' && !item.parent).slice(-60) ?? [];
  });

  const mapPoint = (event: PointerEvent) => {
    const box = ground.getBoundingClientRect();
    return { x: (event.clientX - box.left - origin.x) / scale, y: (event.clientY - box.top - origin.y) / scale };
  };

  const frameAt = (x: number, y: number) =>
    session.program.frames.find((id) => {
      const place = placeOf(id);
      const size = sizes.get(id)!;
      return x >= place.x && y >= place.y && x <= place.x + size.width && y <= place.y + size.height;
    }) ?? null;

  /** Wires by drawing: from a layer to the frame where the stitch is let go. */
  function draw(event: PointerEvent, layer: string, from: string) {
    event.preventDefault();
    event.stopPropagation();
    const begin = mapPoint(event);
    ground.setPointerCapture(event.pointerId);
    drawing = { layer, from, ...begin, toX: begin.x, toY: begin.y, over: null };
    const move = (next: PointerEvent) => {
      const at = mapPoint(next);
      const over = frameAt(at.x, at.y);
      drawing = { layer, from, ...begin, toX: at.x, toY: at.y, over: over === from ? null : over };
    };
    const up = () => {
      ground.removeEventListener('pointermove', move);
      const target = drawing?.over;
      drawing = null;
      if (target) session.edit(`Lead to ${session.piece.scenes.get(target)?.name}`, wireTo(session.piece, [layer], target, newId));
    };
    ground.addEventListener('pointermove', move);
    ground.addEventListener('pointerup', up, { once: true });
  }

  const tones = { good: 'chip-teal', part: 'chip-gold', none: '', bad: 'chip-brick' } as const;

  const groundOf = ({ scene }: SceneProgram) => colorOf(session.piece.head, scene.background);

  function open(id: string) {
    session.openScene(id);
    void goto(`/p/${session.id}/build`);
  }

  const worst = $derived.by(() => {
    const found = new Map<string, number>();
    for (const finding of session.findings) if (finding.place.scene) found.set(finding.place.scene, (found.get(finding.place.scene) ?? 0) + 1);
    return found;
  });
</script>

{#snippet run(stitch: (typeof shown)[number], wide: number)}
  <path
    d={stitch.path}
    fill="none"
    stroke={looks.isWalked(stitch.thread.id) ? 'var(--teal)' : 'var(--gold)'}
    stroke-width={wide}
    vector-effect="non-scaling-stroke"
    stroke-dasharray="7 5"
    stroke-linecap="round"><title>{stitch.words}</title></path
  >
{/snippet}

<main
  bind:this={ground}
  bind:clientWidth={width}
  bind:clientHeight={height}
  class="linen-ground relative h-full overflow-hidden"
  aria-label="Map"
  onwheel={wheel}
  onpointerdown={drag}
  data-map
>
  {#if layout}
    <div class="absolute left-0 top-0 origin-top-left" style:transform="translate({origin.x}px, {origin.y}px) scale({scale})">
      {#each session.program.frames as id, at (id)}
        {@const program = session.program.scenes.get(id)!}
        {@const place = placeOf(id)}
        {@const size = sizes.get(id)!}
        {@const note = looks.noteOn(id)}
        <!-- svelte-ignore a11y_no_static_element_interactions -->
        <div
          class="absolute"
          style:left="{place.x}px"
          style:top="{place.y}px"
          style:width="{size.width}px"
          data-frame={id}
          onpointerenter={() => (hovered = id)}
          onfocusin={() => (hovered = id)}
        >
          <button
            class="block overflow-hidden rounded-md bg-[var(--sheet)] shadow-md outline-offset-2 {program.scene.draft
              ? 'opacity-75'
              : ''} {drawing?.over === id
              ? 'outline-3 outline-[var(--gold)]'
              : session.sceneId === id
                ? 'outline-2 outline-[var(--gold)]'
                : program.scene.draft
                  ? 'outline-2 outline-dashed outline-[var(--soft)]'
                  : ''}"
            aria-label="{program.scene.name}, frame {at + 1}{note ? `, ${note.text}` : ''}"
            onclick={() => session.openScene(id)}
            ondblclick={() => open(id)}
            onkeydown={(event) => event.key === 'Enter' && (event.preventDefault(), open(id))}
          >
            {#if size.width * step >= TINY}
              <Thumb scene={program} assetUrl={session.assetUrl} width={size.width} height={size.height} zoom={sharpness} radius={6} />
            {:else}<span class="block" style:width="{size.width}px" style:height="{size.height}px" style:background={groundOf(program)}></span>{/if}
          </button>
          {#if note && isReadable}<span
              class="chip absolute right-0 top-0 !min-h-0 -translate-y-1/2 translate-x-1 whitespace-nowrap !px-1 !leading-tight {tones[note.tone]}"
              style:font-size="{lettering}px"
              data-note={note.tone}>{note.text}</span
            >{/if}
          {#if isReadable}
            <p class="mt-1 flex items-center gap-1" style:font-size="{lettering}px" style:width="{size.width + 36}px">
              {#if session.piece.head.start.includes(id)}<span class="chip chip-teal !min-h-0 !px-1 !leading-tight">start</span>{/if}
              {#if program.scene.ending}<span class="chip !min-h-0 !px-1 !leading-tight">ending</span>{/if}
              <span class="truncate font-semibold">{at + 1} {program.scene.name}</span>
              {#if worst.get(id)}<span class="shrink-0 text-[var(--brick-text)]" title="loose ends">● {worst.get(id)}</span>{/if}
            </p>
          {/if}
        </div>
      {/each}
      <svg class="pointer-events-none absolute left-0 top-0 overflow-visible" width={layout.width} height={layout.height} aria-hidden="true">
        <g stroke-opacity={shown.length > CROWD ? 0.18 : hovered === null ? 1 : 0.45}>
          {#each shown as stitch (stitch.thread.id + stitch.to)}{@render run(stitch, 2)}{/each}
        </g>
        {#each shown as stitch (stitch.thread.id + stitch.to)}
          <circle cx={stitch.x} cy={stitch.y} r={3.5 * dot} fill="var(--gold)" />
          <circle cx={stitch.endX} cy={stitch.endY} r={4 * dot} fill="var(--sheet)" stroke="var(--gold)" stroke-width={2.2 * dot} />
        {/each}
        {#each lit as stitch (stitch.thread.id + stitch.to)}{@render run(stitch, 3)}{/each}
        {#if drawing}<path
            d="M{drawing.x} {drawing.y} L {drawing.toX} {drawing.toY}"
            stroke="var(--teal)"
            stroke-width="3"
            vector-effect="non-scaling-stroke"
            stroke-dasharray="7 5"
            stroke-linecap="round"
          />{/if}
      </svg>
      {#if hovered !== null && !drawing}
        {@const place = placeOf(hovered)}
        {@const size = sizes.get(hovered)!}
        {#each sources as item (item.layer.id)}
          <!-- svelte-ignore a11y_no_static_element_interactions -->
          <span
            class="absolute cursor-crosshair rounded-[3px] border border-dashed border-[var(--gold)] hover:bg-[color-mix(in_srgb,var(--gold)_30%,transparent)]"
            style:left="{place.x + item.box.x * size.scale}px"
            style:top="{place.y + item.box.y * size.scale}px"
            style:width="{Math.max(6, item.box.width * size.scale)}px"
            style:height="{Math.max(6, item.box.height * size.scale)}px"
            title="Draw a stitch from {item.layer.name}"
            data-source={item.layer.id}
            onpointerdown={(event) => draw(event, item.layer.id, hovered!)}
          ></span>
        {/each}
      {/if}
    </div>
    <div class="pop absolute bottom-3 left-3 flex items-center gap-3 px-3 py-1.5">
      <span
        ><b>{session.program.frames.length}</b>
        {session.program.frames.length === 1 ? 'frame' : 'frames'} · <b>{stitches.length}</b>
        {stitches.length === 1 ? 'stitch' : 'stitches'}</span
      >
      <span class="soft">draw from a layer to a frame to wire it · double-click opens a frame</span>
      <button class="chip" onclick={() => (zoom = null)}>fit</button>
      <div class="flex gap-1" role="radiogroup" aria-label="What the map says">
        {#each Object.entries(mapLooks) as [look, words] (look)}
          <button
            class="chip {looks.look === look ? 'chip-teal' : 'chip-ghost'}"
            role="radio"
            aria-checked={looks.look === look}
            onclick={() => (looks.look = look as MapLook)}>{words}</button
          >
        {/each}
      </div>
    </div>
    {#if way}<p class="pop absolute left-3 top-3 max-w-[70%] px-3 py-1.5" data-way>{way.words}</p>{/if}
  {:else}
    <p class="soft p-6">Laying out the map…</p>
  {/if}
  {#if session.program.frames.length === 0}<p class="absolute inset-0 grid place-items-center text-[15px]">
      No frame yet: bring in pages at the Build desk.
    </p>{/if}
</main>
