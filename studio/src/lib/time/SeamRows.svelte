<script lang="ts">
  import {
    clearSpans,
    copyKeys,
    easeKeys,
    hasKeyAt,
    keysOf,
    momentWords,
    moveSpan,
    pulledEasing,
    pullKeys,
    secondsWords,
    sectionAt,
    sectionName,
    trackValue,
    type KeyAt,
    type Timeline,
    type TrackOf,
    propertyKinds,
    isMediaLayer,
  } from '@zany/core';
  import LayerMark from '$lib/build/LayerMark.svelte';
  import { flipped } from '$lib/shared/flipped';
  import { curveOf, heightsOf, keyTimes, NAMES, ROW, type SeamRow } from './seam';
  import { heldBack } from './held';
  import { followPointer } from '$lib/shared/follow';
  import SeamClip from './SeamClip.svelte';
  import SeamMedia from './SeamMedia.svelte';
  import SeamPulled from './SeamPulled.svelte';
  import SeamNeedles from './SeamNeedles.svelte';
  import SeamSwings from './SeamSwings.svelte';
  import type { DrawnLine } from './seam-drawing';
  import type { Seam } from './seam-state.svelte';

  /** Layers in time, one below the other: when they are there, and the curves of their values with a knot for each key. */
  interface Props {
    seam: Seam;
    timeline: Timeline;
    rows: readonly SeamRow[];
    perFrame: number;
    width: number;
    /** How far the rows are scrolled, and how much of them is seen; CSS px. */
    left: number;
    top: number;
    room: number;
    /** What stands above them: the ruler, and all of the head; CSS px. */
    ruler: number;
    head: number;
    /** How wide what is seen is, names included; CSS px. */
    view: number;
    /** Times that what is dragged is caught by. */
    snap: (time: number) => number;
    /** A finger was put down on nothing. */
    pan: (event: PointerEvent, tap: () => void) => void;
  }
  let { seam, timeline, rows, perFrame, width, left, top, room, ruler, head, view, snap, pan }: Props = $props();

  const session = $derived(seam.session);
  interface Line {
    readonly row: SeamRow;
    readonly track: { readonly id: string; readonly track: TrackOf } | null;
  }
  /** Every line there is: a row, and where it is open one for each of its properties. */
  const lines = $derived(
    rows.flatMap((row): Line[] => [{ row, track: null }, ...(seam.open.has(row.item.layer.id) ? row.tracks.map((track) => ({ row, track })) : [])])
  );
  const first = $derived(Math.max(0, Math.floor(top / ROW) - 2));
  const isPulled = $derived(seam.isPulled);
  const shown = $derived(lines.slice(first, first + Math.ceil(room / ROW) + 5));
  const keyOf = ({ row, track }: Line) => `${row.item.layer.id} ${track?.id ?? ''}`;
  const restedLines = heldBack(
    () => isPulled,
    () => new Map(shown.map((line) => [keyOf(line), line]))
  );
  /** The lines as they were before something was pulled. */
  const rested = $derived(restedLines());

  const atOf = ({ track, time }: KeyAt) => `${track} ${time}`;
  const chosen = $derived(new Set(seam.keys.map(atOf)));

  const x = (time: number) => (time + 0.5) * perFrame;

  /** A key as it is said: `Boat, x, Flood 14, 320`. */
  function keyWords(name: string, track: TrackOf, time: number): string {
    const section = sectionAt(timeline, time);
    const place = `${section?.label ? `${sectionName(timeline, section)} ` : ''}${time - (section?.from ?? 0) + 1}`;
    const value = keysOf(track).find((key) => key.time === time)?.value;
    return `${name}, ${propertyKinds[track.property].words}, ${place}, ${typeof value === 'number' ? Math.round(value * 100) / 100 : value}`;
  }

  /** A line as it is drawn while something is pulled. */
  function drawnLine({ row, track }: Line): DrawnLine {
    const heightOf = track && heightsOf(track.track, ROW);
    const knots = track
      ? keysOf(track.track).map(({ time, value }) => ({ time, y: heightOf!(value), keys: [{ track: track.id, time }] }))
      : keyTimes(row).map((time) => ({ time, y: ROW / 2, keys: keysAt(row, time) }));
    return {
      tracks: track ? [track.track] : row.tracks.map((one) => one.track),
      isOpen: track !== null,
      spans: track ? [] : row.spans,
      knots: knots.map(({ time, y, keys }) => ({ time, y, isOn: keys.some((one) => chosen.has(atOf(one))) })),
    };
  }

  /** The keys of a row at a time. */
  const keysAt = (row: SeamRow, time: number): KeyAt[] => row.tracks.flatMap((one) => (hasKeyAt(one.track, time) ? [{ track: one.id, time }] : []));

  function choose(event: { shiftKey: boolean }, keys: readonly KeyAt[]) {
    const isThere = keys.every(({ track, time }) => seam.isChosen(track, time));
    if (!event.shiftKey) {
      if (!isThere) seam.keys = keys;
    } else if (isThere) seam.keys = seam.keys.filter((one) => !keys.some((key) => key.track === one.track && key.time === one.time));
    else seam.keys = [...seam.keys, ...keys];
  }

  /** Keys that are dragged in time: all that are chosen go along; with Alt their copies do. */
  function dragKeys(event: PointerEvent, layer: string, keys: readonly KeyAt[]) {
    if (event.button !== 0) return;
    event.preventDefault();
    event.stopPropagation();
    session.select([layer]);
    // What is pressed next is meant for the keys.
    (event.currentTarget as HTMLElement).closest<HTMLElement>('[role=gridcell]')?.focus({ preventScroll: true });
    const wasChosen = keys.every(({ track, time }) => seam.isChosen(track, time));
    choose(event, keys);
    if (!session.canEdit || seam.keys.length === 0) return;
    const held = keys[0]!.time;
    const chosen = seam.keys;
    const base = timeline;
    const change = (by: number, next: PointerEvent) => (now: Timeline) =>
      next.altKey ? copyKeys(now, chosen, by) : pullKeys(now, chosen, by).timeline;
    follow(event, held, {
      says: (by, now) => momentWords(now, Math.min(now.length - 1, Math.max(0, held + by)), seam.fps),
      move: (by, next) => {
        seam.preview(by ? change(by, next) : null);
        seam.keys = next.altKey ? chosen : pullKeys(base, chosen, by).keys;
      },
      done: (by, next) => {
        seam.preview(null);
        seam.keys = chosen;
        if (by === 0) {
          if (wasChosen && !event.shiftKey) seam.keys = keys;
          return seam.stand(held);
        }
        if (next.altKey) seam.edit('Copy keys', change(by, next));
        else seam.moveChosen(by);
      },
    });
  }

  function follow(
    event: PointerEvent,
    held: number,
    ways: {
      says: (by: number, now: Timeline) => string;
      move: (by: number, event: PointerEvent) => void;
      done: (by: number, event: PointerEvent) => void;
    }
  ) {
    const settle = (by: number, next: PointerEvent) =>
      Math.abs(next.clientX - event.clientX) < 3 ? 0 : (next.altKey ? Math.round(held + by) : snap(held + by)) - held;
    seam.follow(event, perFrame, { settle, ...ways });
  }

  const spanWords = (span: { readonly from: number; readonly to: number } | undefined) =>
    span ? `there from ${span.from + 1} to ${span.to + 1}, ${secondsWords(span.to - span.from + 1, seam.fps)}` : '';

  function dragSpan(event: PointerEvent, id: string, edge: 'from' | 'to' | 'both') {
    if (event.button !== 0 || !session.canEdit) return;
    event.preventDefault();
    event.stopPropagation();
    const span = timeline.spans![id]!;
    session.select([span.layer]);
    const held = edge === 'to' ? span.to : span.from;
    const change = (by: number) => (now: Timeline) => moveSpan(now, id, edge === 'both' ? { from: by, to: by } : { [edge]: by });
    follow(event, held, {
      says: (_by, now) => spanWords(now.spans?.[id]),
      move: (by) => seam.preview(by ? change(by) : null),
      done: (by) => {
        seam.preview(null);
        if (by) seam.edit(edge === 'both' ? 'Move a span' : 'Length of a span', change(by));
      },
    });
  }

  /** The way between two keys, pulled up or down where it is held. */
  function bend(event: PointerEvent, { id, track }: { id: string; track: TrackOf }) {
    if (event.button !== 0 || !session.canEdit) return;
    const { left, top: above } = (event.currentTarget as SVGElement).ownerSVGElement!.getBoundingClientRect();
    const time = (event.clientX - left) / perFrame - 0.5;
    const way = keysOf(track);
    const at = way.findLastIndex((one) => one.time <= time);
    const [from, to] = [way[at], way[at + 1]];
    if (!from || !to || typeof from.value !== 'number' || from.value === to.value) return;
    event.preventDefault();
    event.stopPropagation();
    const heightOf = heightsOf(track, ROW);
    const [low, high] = [heightOf(from.value), heightOf(to.value)];
    const t = (time - from.time) / (to.time - from.time);
    const keys = [{ track: id, time: from.time }];
    const easingAt = (next: PointerEvent) => pulledEasing(t, (next.clientY - above - low) / (high - low));
    seam.keys = keys;
    seam.follow(event, perFrame, {
      move: (_by, next) => seam.preview((now) => easeKeys(now, keys, easingAt(next))),
      done: (_by, next) => {
        seam.preview(null);
        if (Math.abs(next.clientY - event.clientY) < 2) return;
        const easing = easingAt(next);
        seam.edit(`Easing ${easing}`, (now) => easeKeys(now, keys, easing));
      },
    });
  }

  /** A frame drawn over rows chooses the keys in it; with Shift, besides those that are chosen. */
  let marquee: { x: number; y: number; width: number; height: number } | null = $state(null);
  let grid: HTMLElement | undefined = $state();

  function startMarquee(event: PointerEvent) {
    if (event.button !== 0 || !grid || (event.target as HTMLElement).closest('[data-knot], [data-span], [data-way], [role=rowheader]')) return;
    if (event.pointerType === 'touch') return pan(event, () => (seam.keys = []));
    const { left, top: above } = grid.getBoundingClientRect();
    const before = event.shiftKey ? seam.keys : [];
    const begun = { x: event.clientX - left, y: event.clientY - above };
    const move = (next: PointerEvent) => {
      const [x2, y2] = [next.clientX - left, next.clientY - above];
      if (!marquee && Math.hypot(x2 - begun.x, y2 - begun.y) < 4) return;
      marquee = { x: Math.min(begun.x, x2), y: Math.min(begun.y, y2), width: Math.abs(x2 - begun.x), height: Math.abs(y2 - begun.y) };
      const rowsIn = lines.slice(Math.max(0, Math.floor(marquee.y / ROW)), Math.floor((marquee.y + marquee.height) / ROW) + 1);
      const [from, to] = [marquee.x - NAMES, marquee.x + marquee.width - NAMES].map((at) => at / perFrame - 0.5) as [number, number];
      const found = rowsIn.flatMap(({ row, track }) =>
        (track ? [track] : row.tracks).flatMap((one) =>
          keysOf(one.track).flatMap(({ time }) => (time >= from && time <= to ? [{ track: one.id, time }] : []))
        )
      );
      // A row and its open lines hold the same keys.
      seam.keys = [...new Map([...before, ...found].map((key) => [`${key.track} ${key.time}`, key])).values()];
    };
    followPointer(event, {
      move,
      done: (last) => {
        if (last && !marquee && !event.shiftKey) seam.keys = [];
        marquee = null;
      },
    });
  }

  /** Arrows go from key to key; with Alt they move what is chosen in time. */
  function key(event: KeyboardEvent, row: SeamRow, track: { id: string; track: TrackOf } | null) {
    const times = track ? keysOf(track.track).map((one) => one.time) : keyTimes(row);
    const at = (time: number): KeyAt[] => (track ? [{ track: track.id, time }] : keysAt(row, time));
    const now = session.moment ?? 0;
    const way = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0;
    if (way && event.altKey) seam.moveChosen(way * (event.shiftKey ? 10 : 1));
    else if (way && !event.ctrlKey && !event.metaKey) {
      const to = way > 0 ? times.find((time) => time > now) : times.findLast((time) => time < now);
      if (to === undefined) return;
      seam.keys = event.shiftKey ? [...seam.keys, ...at(to)] : at(to);
      seam.stand(to);
    } else if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      const line = lines.findIndex((one) => one.row === row && one.track === track) + (event.key === 'ArrowDown' ? 1 : -1);
      return line < 0 ? undefined : enter(event, line);
    } else if (event.key === 'Enter' && !event.shiftKey) {
      seam.open = flipped(seam.open, row.item.layer.id);
    } else return;
    event.preventDefault();
    event.stopPropagation();
  }

  /** Goes to a line by the keyboard; rows that are out of view come into it. */
  export function enter(event: KeyboardEvent, line: number) {
    const cells = grid?.querySelectorAll<HTMLElement>('[role=gridcell]');
    const cell = cells?.[line - first];
    if (!cell) return;
    cell.focus();
    event.preventDefault();
    event.stopPropagation();
  }

  const knotTitle = (row: SeamRow, time: number) =>
    row.tracks
      .filter(({ track }) => hasKeyAt(track, time))
      .map(({ track }) => keyWords(row.item.layer.name, track, time))
      .join('; ');
</script>

<!-- svelte-ignore a11y_interactive_supports_focus -->
<div
  class="relative"
  style:height="{lines.length * ROW}px"
  style:width="{NAMES + width}px"
  role="grid"
  aria-label="Layers in time"
  bind:this={grid}
  onpointerdown={startMarquee}
  aria-rowcount={lines.length}
>
  {#each shown as { row, track }, i (keyOf({ row, track }))}
    {@const layer = row.item.layer}
    {@const line = rested.get(keyOf({ row, track })) ?? { row, track }}
    {@const isSelected = session.selection.includes(layer.id)}
    <div
      class="absolute left-0 right-0 flex border-b [contain:layout_style] border-[color-mix(in_srgb,var(--line)_60%,transparent)] {isSelected
        ? 'bg-[var(--gold-wash)]'
        : ''}"
      style:top="{(first + i) * ROW}px"
      style:height="{ROW}px"
      role="row"
      aria-rowindex={first + i + 1}
      data-seam-row={layer.id}
    >
      <span
        class="sticky left-0 z-10 flex shrink-0 items-center gap-1 border-r border-[var(--line)] pr-1 {isSelected
          ? 'bg-[var(--gold-wash)]'
          : 'bg-[var(--rim)]'}"
        style:width="{NAMES}px"
        style:padding-left="{6 + row.depth * 10 + (track ? 18 : 0)}px"
        role="rowheader"
      >
        {#if track}
          {@const value = trackValue((line.track ?? track).track, session.moment ?? 0)}
          <span class="soft flex-1 truncate text-[12px]">{propertyKinds[track.track.property].words}</span>
          <span class="text-[12px] tabular-nums">{typeof value === 'number' ? Math.round(value * 100) / 100 : ''}</span>
          {#if typeof value === 'string' && value.startsWith('#')}<span
              class="h-3 w-3 rounded-sm border border-[var(--line)]"
              style:background={value}
            ></span>{/if}
        {:else}
          {#if row.tracks.length}<button
              class="soft w-3 text-[10px]"
              tabindex="-1"
              aria-label="{seam.open.has(layer.id) ? 'Fold' : 'Open'} {layer.name}"
              onclick={() => (seam.open = flipped(seam.open, layer.id))}>{seam.open.has(layer.id) ? '▾' : '▸'}</button
            >{:else}<span class="w-3"></span>{/if}
          <LayerMark type={layer.type} fill={layer.style.fill} />
          <button class="min-w-0 flex-1 truncate text-left text-[12.5px]" tabindex="-1" onclick={() => session.select([layer.id])}
            >{layer.name}</button
          >
        {/if}
      </span>
      <span
        class="relative block h-full flex-1"
        role="gridcell"
        tabindex="0"
        aria-label="{layer.name}{track ? `, ${propertyKinds[track.track.property].words}` : ''}: {line.track
          ? keysOf(line.track.track).length
          : keyTimes(line.row).length} keys{line.row.spans.length ? `, there in ${line.row.spans.length} spans` : ''}"
        onkeydown={(event) => key(event, row, track)}
      >
        {#if !track}
          {#each line.row.spans as span (span.id)}
            <span
              class="{isPulled
                ? 'invisible'
                : ''} absolute top-[4px] flex h-[18px] cursor-grab items-stretch justify-between rounded-[4px] border border-[var(--teal)] bg-[color-mix(in_srgb,var(--teal-wash)_80%,transparent)]"
              style:left="{span.from * perFrame}px"
              style:width="{(span.to - span.from + 1) * perFrame}px"
              title="There from frame {span.from + 1} to {span.to + 1}; double-click: always"
              role="presentation"
              data-span={span.id}
              onpointerdown={(event) => dragSpan(event, span.id, 'both')}
              ondblclick={() => session.canEdit && seam.edit('Always there', (now) => clearSpans(now, [layer.id]))}
            >
              <span class="w-[6px] cursor-ew-resize" role="presentation" onpointerdown={(event) => dragSpan(event, span.id, 'from')}></span>
              <span class="w-[6px] cursor-ew-resize" role="presentation" onpointerdown={(event) => dragSpan(event, span.id, 'to')}></span>
            </span>
          {:else}{#if line.row.tracks.length}<span class="absolute left-0 right-0 top-[12.5px] h-px bg-[var(--line)]"></span>{/if}{/each}
        {/if}
        {#if !track && isMediaLayer(layer)}<SeamMedia {seam} {timeline} {row} {perFrame} height={ROW - 3} />{/if}
        {#if !track && timeline.cues}<SeamNeedles {seam} {timeline} {layer} {perFrame} height={ROW} {snap} />{/if}
        {#if !track && layer.part !== undefined}
          {@const inner = session.program.scenes.get(layer.part)?.scene.timeline}
          {#if inner}<SeamClip {inner} from={row.spans[0]?.from ?? 0} to={row.spans[0]?.to ?? timeline.length - 1} {perFrame} />{/if}
        {/if}
        <!-- As it was taken hold of, out of sight while it is pulled: what follows the pointer must stay. -->
        <svg class="pointer-events-none absolute inset-0 overflow-visible {isPulled ? 'invisible' : ''}" width="100%" height={ROW} aria-hidden="true">
          {#each line.track ? [line.track] : line.row.tracks as one (one.id)}
            {@const points = curveOf(one.track, (time) => trackValue(one.track, time), x, ROW)}
            <polyline {points} fill="none" stroke="var(--gold-text)" stroke-width={track ? 1.6 : 1.1} stroke-opacity={track ? 1 : 0.55} />
            {#if track && session.canEdit}<polyline
                class="cursor-ns-resize"
                style:pointer-events="stroke"
                {points}
                fill="none"
                stroke="transparent"
                stroke-width="9"
                role="presentation"
                data-way={one.track.property}
                onpointerdown={(event) => bend(event, one)}
              />{/if}
            {#if track && session.canEdit}<SeamSwings {seam} {one} {x} {perFrame} height={ROW} />{/if}
          {/each}
        </svg>
        {@render knots(line)}
      </span>
    </div>
  {/each}
  {#if isPulled}<SeamPulled
      {timeline}
      lines={shown.map(drawnLine)}
      first={first * ROW}
      {left}
      {top}
      {ruler}
      {head}
      {perFrame}
      {view}
      {room}
      told={seam.told}
    />{/if}
  {#if marquee}<span
      class="pointer-events-none absolute z-10 border border-[var(--gold)] bg-[color-mix(in_srgb,var(--gold)_14%,transparent)]"
      style:left="{marquee.x}px"
      style:top="{marquee.y}px"
      style:width="{marquee.width}px"
      style:height="{marquee.height}px"
    ></span>{/if}
</div>

{#snippet knots({ row, track }: Line)}
  <!-- Where they were taken hold of, out of sight while they are pulled: what follows the pointer must stay. -->
  <span class={isPulled ? 'invisible' : ''}>
    {#if track}
      {@const heightOf = heightsOf(track.track, ROW)}
      {#each keysOf(track.track) as one (one.id)}
        {@render knot(row.item.layer.id, one.time, heightOf(one.value), [{ track: track.id, time: one.time }], () =>
          keyWords(row.item.layer.name, track.track, one.time)
        )}
      {/each}
    {:else}
      {#each keyTimes(row) as time, k (k)}
        {@render knot(row.item.layer.id, time, ROW / 2, keysAt(row, time), () => knotTitle(row, time))}
      {/each}
    {/if}
  </span>
{/snippet}

{#snippet knot(layer: string, time: number, y: number, keys: readonly KeyAt[], wordsOf: () => string)}
  <!-- What goes by is not said: words come when it is let go. -->
  {@const words = session.rushes ? undefined : wordsOf()}
  {@const isOn = keys.some((one) => chosen.has(atOf(one)))}
  <button
    class="absolute h-[11px] w-[11px] -translate-x-1/2 -translate-y-1/2 cursor-grab rounded-full border-[1.5px] {isOn
      ? 'border-[var(--ink)] bg-[var(--gold)]'
      : 'border-[var(--gold-text)] bg-[var(--sheet)]'}"
    style:left="{x(time)}px"
    style:top="{y}px"
    tabindex="-1"
    aria-pressed={isOn}
    aria-label={words}
    title={words}
    data-knot={time}
    onpointerdown={(event) => dragKeys(event, layer, keys)}
  ></button>
{/snippet}
