<script lang="ts">
  import {
    addSections,
    alignKeys,
    count,
    isThereAt,
    marksIn,
    mirrorKeys,
    momentWords,
    movingWords,
    parseMoment,
    pullStaggered,
    pullStretched,
    setLength,
    readingOrder,
    secondsWords,
    sectionsFor,
    snapped,
    spreadKeys,
    unlikeOutlines,
    withOutlines,
    timelineWords,
    type Timeline,
  } from '@zany/core';
  import { onDestroy, tick, untrack } from 'svelte';
  import { newId } from '$lib/client/ids';
  import type { EditorSession } from '$lib/client/session.svelte';
  import ChipMenu from '$lib/shared/ChipMenu.svelte';
  import { fieldKey, isTyping } from '$lib/shared/focus';
  import NumberField from '$lib/build/NumberField.svelte';
  import { isEmptyTime, NAMES, ROW, rowsOf, rulerStep } from './seam';
  import { heldBack } from './held';
  import { followPointer } from '$lib/shared/follow';
  import { STILL, touches, type Place } from '$lib/shared/touch';
  import { Seam } from './seam-state.svelte';
  import EasingChip from './EasingChip.svelte';
  import SeamAdditions from './SeamAdditions.svelte';
  import SeamRows from './SeamRows.svelte';
  import SeamSections from './SeamSections.svelte';
  import SeamTold from './SeamTold.svelte';

  /** The seam: the time of the open scene from left to right, and everything that happens in it. */
  let { session }: { session: EditorSession } = $props();

  // svelte-ignore state_referenced_locally
  const seam = new Seam(session);
  onDestroy(() => seam.stop());

  let view = $state(600);
  let room = $state(160);
  let top = $state(0);
  let left = $state(0);
  let scroller: HTMLElement | undefined = $state();
  let rowsBelow: SeamRows | undefined = $state();
  let additions: SeamAdditions | undefined = $state();
  let sections: ReturnType<typeof SeamSections> | undefined = $state();
  let ruler: HTMLElement | undefined = $state();
  let namesField: HTMLElement | undefined = $state();
  let names = $state('');
  let seconds = $state(2);

  /** CSS px of the ruler, and of it and the sections above the rows. */
  const RULER = 18;
  const HEAD = 44;

  const timeline = $derived(session.timeline);
  const timelineAtRest = heldBack(
    () => seam.isPulled,
    () => session.timeline
  );
  /** The time as elements show and say it: while something is pulled, as it was before. */
  const rested = $derived(timelineAtRest());
  const moment = $derived(session.moment ?? 0);
  const fps = $derived(seam.fps);
  const fitted = $derived(Math.max(0.02, (view - NAMES - 24) / Math.max(1, timeline?.length ?? 1)));
  const perFrame = $derived(seam.held?.perFrame ?? (seam.perFrame || fitted));
  /** CSS px. */
  const SPARE = 400;
  const exact = $derived((timeline?.length ?? 0) * perFrame);
  const widthAtRest = heldBack(
    () => seam.held !== null,
    () => exact
  );
  /** While something is pulled it grows by a lot at a time: laying out all of time anew with each of its frames takes too long. */
  const width = $derived(seam.held ? widthAtRest() + Math.ceil(Math.max(0, exact - widthAtRest()) / SPARE) * SPARE : exact);
  /** Where the ruler ends, in timeline frames: while something is pulled, where there is room for it. */
  const rulerEnd = $derived(seam.held ? Math.round(width / perFrame) : (timeline?.length ?? 0));
  const rows = $derived(session.sceneAtRest && timeline ? rowsOf(session.sceneAtRest, session.selection, seam.all) : []);
  /** Rows, and the lines of those that are open. */
  const lines = (some: typeof rows) => some.reduce((all, { item, tracks }) => all + 1 + (seam.open.has(item.layer.id) ? tracks.length : 0), 0);
  const lineCount = $derived(lines(rows));
  const step = $derived(rulerStep(perFrame, fps));
  const countThere = heldBack(
    () => session.rushes,
    () => session.scene?.items.filter((item) => item.shown && (!timeline || isThereAt(timeline, item.layer.id, moment))).length ?? 0
  );
  const momentAtRest = heldBack(
    () => session.rushes,
    () => moment
  );
  /** The moment as elements say it: on the way, a tag on the ruler does. */
  const restedMoment = $derived(momentAtRest());
  /** What elements say is over while something is on its way. */
  const passed = $derived(session.rushes ? 'opacity-40' : '');
  /** How many layers are there at the moment that is said. */
  const there = $derived(countThere());
  const marks = $derived(timeline ? marksIn(timeline) : []);
  const snap = (time: number) => snapped([...(seam.held?.marks ?? marks), moment], time, 6 / perFrame);

  $effect(() => {
    void session.sceneId;
    untrack(() => {
      seam.keys = [];
      seam.stop();
    });
  });
  $effect(() => {
    if (!session.timeAsked) return;
    session.timeAsked = false;
    void tick().then(() => (ruler ?? namesField)?.focus());
  });
  $effect(() => {
    void timeline;
    // What is pulled stands elsewhere until it is let go.
    untrack(() => seam.held || seam.prune());
  });

  $effect(() => {
    const [first] = session.selection;
    if (first !== undefined) untrack(() => seam.held || void tick().then(() => bringRow(first)));
  });

  /** Scrolls the row of a layer into view, no further than it takes. */
  function bringRow(layer: string) {
    const at = rows.findIndex(({ item }) => item.layer.id === layer);
    if (at < 0 || !scroller) return;
    const above = lines(rows.slice(0, at)) * ROW;
    const seen = room - HEAD;
    if (above < scroller.scrollTop) scroller.scrollTop = above;
    else if (above + ROW > scroller.scrollTop + seen) scroller.scrollTop = above + ROW - seen;
  }

  function scrub(event: PointerEvent) {
    if (event.button !== 0 || !scroller) return;
    const { left } = (event.currentTarget as HTMLElement).getBoundingClientRect();
    const scrolled = scroller.scrollLeft;
    const at = (next: PointerEvent) => Math.floor((next.clientX - left + (scroller?.scrollLeft ?? 0) - scrolled) / perFrame);
    seam.stand(Math.max(0, at(event)));
    followPointer(event, {
      move: (next) => {
        session.rushes = true;
        seam.stand(Math.max(0, next.shiftKey ? snap(at(next)) : at(next)));
        seam.tell(next, momentWords(seam.timeline!, moment, fps));
      },
      done: () => {
        session.rushes = false;
        seam.tell(null);
      },
    });
  }

  function wheel(event: WheelEvent) {
    if (!event.ctrlKey && !event.metaKey) return;
    event.preventDefault();
    zoom(perFrame * Math.exp(-event.deltaY / 300), event.clientX);
  }

  /** Makes timeline frames so wide; the moment at a place in the window stays there, or comes to another one. */
  function zoom(wide: number, from: number, to = from) {
    if (!scroller) return;
    const begin = scroller.getBoundingClientRect().left + NAMES;
    const time = (scroller.scrollLeft + from - begin) / perFrame;
    seam.perFrame = Math.max(fitted, Math.min(60, wide));
    void tick().then(() => (scroller!.scrollLeft = time * perFrame - (to - begin)));
  }

  /** Two fingers move the strip and zoom it. */
  function pinch(from: Place, to: Place, factor: number) {
    scroller?.scrollBy(0, from.y - to.y);
    zoom(perFrame * factor, from.x, to.x);
  }

  /** One finger on nothing moves it, and taps. */
  function pan(event: PointerEvent, tap: () => void) {
    if (!scroller) return;
    const begun = { x: scroller.scrollLeft + event.clientX, y: scroller.scrollTop + event.clientY };
    let isMoved = false;
    followPointer(event, {
      move: (next) => {
        isMoved ||= Math.hypot(next.clientX - event.clientX, next.clientY - event.clientY) > STILL;
        if (isMoved) scroller!.scrollTo(begun.x - next.clientX, begun.y - next.clientY);
      },
      done: (last) => !isMoved && last && tap(),
    });
  }

  function key(event: KeyboardEvent) {
    if (isTyping(event.target)) return;
    const run = event.ctrlKey || event.metaKey ? clipOf(event) : keysOf(event);
    if (!run) return;
    event.preventDefault();
    event.stopPropagation();
    run();
  }

  /** All keys of what is selected; where there are none, or they are chosen already, all layers are meant. */
  function allKeys(): (() => void) | null {
    const all = seam.allKeys;
    return all.some(({ track, time }) => !seam.isChosen(track, time)) ? () => (seam.keys = all) : null;
  }

  /** Copying and pasting keys; where no keys are chosen, the layers are what is copied. */
  function clipOf(event: KeyboardEvent): (() => void) | null {
    const { keys } = seam;
    switch (event.key.toLowerCase()) {
      case 'a':
        return allKeys();
      case 'c':
        return keys.length ? () => seam.copy() : null;
      case 'x':
        return keys.length && session.canEdit ? () => seam.cut() : null;
      case 'd':
        return keys.length && session.canEdit ? () => seam.duplicate() : null;
      case 'v':
        return session.canEdit && seam.hasCopied ? () => seam.paste() : null;
      default:
        return null;
    }
  }

  function keysOf(event: KeyboardEvent): (() => void) | null {
    const isButton = event.target instanceof HTMLButtonElement && !event.target.dataset['knot'];
    switch (event.key) {
      case ' ':
        return isButton ? null : () => seam.toggle();
      case 'ArrowLeft':
      case 'ArrowRight':
        return () => {
          const by = (event.key === 'ArrowLeft' ? -1 : 1) * (event.shiftKey ? 10 : 1);
          if (event.altKey && seam.keys.length) seam.moveChosen(by);
          else seam.step(by);
        };
      case 'ArrowDown':
        return document.activeElement === ruler ? () => rowsBelow?.enter(event, 0) : null;
      case 'a':
      case 'A':
        return session.canEdit && session.selection.length ? () => additions?.open() : null;
      case 'Home':
        return () => seam.stand(0);
      case 'End':
        return () => seam.stand(Infinity);
      case 'PageUp':
      case 'PageDown':
        return () => seam.toSection(event.key === 'PageDown' ? 1 : -1);
      case '<':
      case '>':
        return () => seam.toMark(event.key === '>' ? 1 : -1);
      case 'l':
      case 'L':
        return session.canEdit ? () => sections?.label(moment) : null;
      case 'k':
      case 'K':
        return session.canEdit && session.selection.length ? () => seam.addKeys(['x', 'y']) : null;
      case 'Delete':
      case 'Backspace':
        return seam.keys.length && session.canEdit ? () => seam.removeChosen() : null;
      case 'Escape':
        return seam.keys.length && !event.shiftKey ? () => (seam.keys = []) : null;
      default:
        return null;
    }
  }

  const range = $derived(
    seam.keys.length ? { first: Math.min(...seam.keys.map((one) => one.time)), last: Math.max(...seam.keys.map((one) => one.time)) } : null
  );
  const layersInOrder = $derived(rows.map((row) => row.item.layer.id));
  /** Tracks of chosen keys in which outlines are faded into the next. */
  const unlike = $derived(timeline ? unlikeOutlines(timeline, seam.keys) : []);

  async function match() {
    const tracks = unlike;
    const { matchOutlines } = await import('$lib/client/match-outlines');
    seam.edit('Match the outlines', (now) => withOutlines(now, tracks, matchOutlines));
  }

  const doings = $derived([
    { value: () => seam.edit('Turn round in time', (now) => mirrorKeys(now, seam.keys)), label: 'turn round', hint: 'in time' },
    { value: () => seam.edit('Spread evenly', (now) => spreadKeys(now, seam.keys)), label: 'spread evenly', hint: '' },
    { value: () => seam.edit('Begin together', (now) => alignKeys(now, seam.keys, 'begin')), label: 'begin together', hint: '' },
    { value: () => seam.edit('End together', (now) => alignKeys(now, seam.keys, 'end')), label: 'end together', hint: '' },
    ...(unlike.length ? [{ value: () => void match(), label: 'match the outlines', hint: 'no fade' }] : []),
    { value: () => seam.removeChosen(), label: 'remove', hint: 'Delete' },
  ]);

  function stretch(frames: number | undefined) {
    if (range && frames !== undefined && range.last > range.first) stretchBy((frames - 1) / (range.last - range.first), 'Stretch keys');
  }

  const speed = (percent: number | undefined) => percent && percent !== 100 && stretchBy(100 / percent, `${percent} % of the speed`);

  function stretchBy(factor: number, name: string) {
    const { keys } = seam;
    if (!range) return;
    if (seam.edit(name, (now) => pullStretched(now, keys, range.first, factor)))
      seam.keys = keys.map((one) => ({ ...one, time: Math.round(range.first + (one.time - range.first) * factor) }));
  }

  function stagger(frames: number | undefined) {
    if (!frames) return;
    const { keys } = seam;
    seam.edit('One after the other', (now) => pullStaggered(now, keys, layersInOrder.toReversed(), frames));
    seam.keys = [];
  }

  /** What becomes pages in time where no names are written: the selected layers, in the order of reading. */
  const pages = $derived(
    session.selection.length > 1
      ? readingOrder((session.scene?.items ?? []).flatMap(({ layer }) => (session.selection.includes(layer.id) ? [layer] : [])))
      : []
  );

  function begin(event: SubmitEvent) {
    event.preventDefault();
    const list = names
      .split(',')
      .map((name) => name.trim())
      .filter(Boolean);
    const frames = Math.max(1, Math.round(seconds * fps));
    const empty = (now: Timeline) => (isEmptyTime(now) ? { ...now, length: 1 } : now);
    if (!list.length && pages.length > 1)
      seam.edit(`A section for each of ${pages.length} layers`, (now) => sectionsFor(empty(now), pages, frames, newId));
    else if (list.length) seam.edit(`Sections: ${list.join(', ')}`, (now) => addSections(empty(now), list, frames, newId));
    else seam.edit('Give it time', (now) => setLength(now, frames));
    names = '';
  }

  /** Enter makes the sections that are written, Escape leaves the field. */
  function nameKey(event: KeyboardEvent) {
    if (event.key === 'Enter') event.stopPropagation();
    else fieldKey(event);
  }

  function typeMoment(event: Event) {
    const field = event.currentTarget as HTMLInputElement;
    const to = timeline && parseMoment(field.value, timeline, fps, moment);
    if (to === null) session.notify(`“${field.value}” is no moment. Write 48, 2 s, +10, or the name of a section.`);
    else seam.stand(to);
    field.value = String(session.moment === null ? 1 : session.moment + 1);
  }

  const setFlag = (name: string, field: 'autoplay' | 'loop', value: boolean | undefined) =>
    seam.edit(name, ({ [field]: _old, ...now }) => ({ ...now, ...(value !== undefined && { [field]: value }) }));
</script>

{#if !timeline || !rested}
  <form class="flex flex-wrap items-center gap-2 self-center" onsubmit={begin} novalidate>
    <span class="soft">{session.scene?.scene.name ?? 'This'} has no time yet.</span>
    {#if session.canEdit && session.scene}
      <input
        class="field w-[260px]"
        placeholder="names of sections: Front, Page 1, Page 2"
        aria-label="Names of sections"
        bind:this={namesField}
        bind:value={names}
        onkeydown={nameKey}
      />
      <span class="soft">of</span>
      <NumberField value={seconds} label="Seconds" min={0.1} max={600} width={56} submits onset={(value) => (seconds = value ?? 2)} />
      <span class="soft">s each</span>
      <button class="act act-go">{names.trim() === '' && pages.length > 1 ? `A section for each of ${pages.length} layers` : 'Give it time'}</button>
    {/if}
  </form>
{:else}
  {@const restedWords = momentWords(rested, restedMoment, fps)}
  <!-- svelte-ignore a11y_no_noninteractive_element_interactions -->
  <div class="flex min-h-0 min-w-0 flex-1 flex-col" role="group" aria-label="Seam" onkeydown={key}>
    <div class="flex min-h-[28px] shrink-0 items-center gap-x-2 whitespace-nowrap pb-1 text-[12.5px]">
      <button class="act !h-[22px] !px-2" aria-label={seam.playing ? 'Stop' : 'Play from here'} title="Space" onclick={() => seam.toggle()}
        >{seam.playing ? '■' : '▶'}</button
      >
      <input
        class="field h-[22px] w-[52px] shrink-0 !px-1 text-right {passed}"
        value={restedMoment + 1}
        aria-label="Moment"
        title="48, 2 s, +10, a section"
        onkeydown={fieldKey}
        onchange={typeMoment}
      />
      <!-- What moves then stands beside it where there is room, else on a second line that is not shown. -->
      <span class="flex h-[20px] min-w-0 flex-1 flex-wrap gap-x-2 overflow-hidden leading-[20px] {passed}">
        <span class="max-w-full truncate font-semibold" role="status" data-moment={restedMoment} title={restedWords}>{restedWords}</span>
        <span class="soft">{movingWords(rested, restedMoment, there)}</span>
      </span>
      {#if session.canEdit}
        {#if session.selection.length}<SeamAdditions bind:this={additions} {seam} {timeline} {moment} />{/if}
        <button class="chip" title="L" onclick={() => sections?.label(moment)}>+ label</button>
      {/if}
    </div>
    <div
      bind:this={scroller}
      bind:clientWidth={view}
      bind:clientHeight={room}
      class="scroll relative min-h-0 flex-1 touch-none overflow-auto border-y border-[var(--line)] bg-[var(--sheet)]"
      onscroll={({ currentTarget }) => ([left, top] = [currentTarget.scrollLeft, currentTarget.scrollTop])}
      onwheel={wheel}
      role="presentation"
      {@attach touches({ pinch })}
    >
      {#if seam.told && !seam.isPulled}<SeamTold words={seam.told.words} clientX={seam.told.clientX} height={RULER} {view} />{/if}
      <div class="sticky top-0 z-20 bg-[var(--rim)]" style:width="{NAMES + width}px">
        <div class="flex">
          <span class="sticky left-0 z-10 shrink-0 border-r border-[var(--line)] bg-[var(--rim)]" style:width="{NAMES}px"></span>
          <div
            class="relative h-[18px] cursor-ew-resize touch-none"
            style:width="{width}px"
            role="slider"
            tabindex="0"
            aria-label="Playhead"
            aria-valuemin={1}
            aria-valuemax={rested.length}
            aria-valuenow={restedMoment + 1}
            aria-valuetext={restedWords}
            data-ruler
            bind:this={ruler}
            onpointerdown={scrub}
            ondblclick={() => session.canEdit && sections?.label(moment)}
          >
            {#each { length: Math.ceil(rulerEnd / step) } as _, i (i)}
              <span class="soft absolute top-0 border-l border-[var(--line)] pl-0.5 text-[12px] leading-[18px]" style:left="{i * step * perFrame}px"
                >{i * step + 1}{#if (i * step) % fps === 0}<span> · {(i * step) / fps} s</span>{/if}</span
              >
            {/each}
          </div>
        </div>
        <div class="flex border-b border-[var(--line)]">
          <span
            class="soft sticky left-0 z-10 shrink-0 border-r border-[var(--line)] bg-[var(--rim)] pl-2 text-[12px] leading-[26px]"
            style:width="{NAMES}px"
            ><button
              class="chip {seam.all ? 'chip-on' : 'chip-ghost'} !h-[18px] text-[12px]"
              aria-pressed={seam.all}
              onclick={() => (seam.all = !seam.all)}>all layers</button
            ></span
          >
          <div style:width="{width}px"><SeamSections bind:this={sections} {seam} timeline={rested} {perFrame} /></div>
        </div>
      </div>
      <SeamRows bind:this={rowsBelow} {seam} {timeline} {rows} {perFrame} {width} {left} {top} {room} ruler={RULER} head={HEAD} {view} {snap} {pan} />
      {#if rows.length === 0}<p class="soft sticky left-0 px-3 py-2">
          Select a layer and move it on the stage: where the playhead stands, it gets a key. Or show all layers.
        </p>{/if}
      <span
        class="pointer-events-none absolute left-0 top-0 z-10 w-px bg-[var(--brick)] will-change-transform"
        style:transform="translateX({NAMES + (moment + 0.5) * perFrame}px)"
        style:height="{Math.max(room, HEAD + lineCount * ROW)}px"
      ></span>
    </div>
    {#if range && session.canEdit}
      <!-- Below the seam, so that nothing in it moves from under the pointer as keys are selected. -->
      <div class="flex shrink-0 flex-wrap items-center gap-x-2 whitespace-nowrap pt-1 text-[12.5px]" role="group" aria-label="Keys">
        <span class="soft">{count(seam.keys.length, 'key')}</span>
        <EasingChip {seam} {timeline} />
        {#if range.last > range.first}
          <label class="flex items-center gap-1"
            ><span class="soft">over</span><NumberField
              value={range.last - range.first + 1}
              label="Frames from the first to the last"
              min={2}
              max={100000}
              step={1}
              width={52}
              onset={stretch}
            /></label
          >
          <label class="flex items-center gap-1"
            ><NumberField value={100} label="Speed, per cent" min={1} max={10000} step={10} width={50} onset={speed} /><span class="soft"
              >% speed</span
            ></label
          >
          <label class="flex items-center gap-1"
            ><span class="soft">stagger</span><NumberField
              value={undefined}
              label="Frames one after the other"
              min={-1000}
              max={1000}
              step={1}
              width={44}
              onset={stagger}
            /></label
          >
        {/if}
        <ChipMenu name="More for the keys" label="⋯" options={doings} onpick={(run) => run()} />
      </div>
    {/if}
    <div class="flex flex-wrap items-center gap-x-1 pt-1 text-[12px]" title={timelineWords(rested, fps)}>
      {#if session.canEdit}
        <button
          class="chip"
          aria-pressed={timeline.autoplay !== false}
          onclick={() => setFlag('Plays by itself', 'autoplay', timeline.autoplay === false ? undefined : false)}
          >{timeline.autoplay === false ? 'Waits to be played' : 'Plays by itself'}</button
        >
        <button
          class="chip"
          aria-pressed={timeline.loop === true}
          onclick={() => setFlag('Round and round', 'loop', timeline.loop ? undefined : true)}>{timeline.loop ? 'round and round' : 'once'}</button
        >
        <NumberField value={fps} label="Frames a second" min={1} max={120} width={44} onset={(value) => value && seam.setFps(value)} />
        <span class="soft">frames a second,</span>
        <NumberField
          value={rested.length}
          label="Length in frames"
          min={1}
          max={1000000}
          width={58}
          onset={(value) => value && seam.edit('Length', (now) => setLength(now, value))}
        />
        <span class="soft {seam.isPulled ? passed : ''}">frames, {secondsWords(rested.length, fps)}</span>
        <button
          class="chip {session.onion ? 'chip-on' : 'chip-ghost'}"
          aria-pressed={session.onion !== null}
          title="Fainter pictures of the moments before and after"
          onclick={() => (session.onion = session.onion ? null : { count: 2, apart: 4 })}>before and after</button
        >
        {#if session.onion}
          {@const { onion } = session}
          <NumberField
            value={onion.count}
            label="Moments on each side"
            min={1}
            max={8}
            width={40}
            onset={(value) => value && (session.onion = { ...onion, count: Math.round(value) })}
          />
          <span class="soft">each,</span>
          <NumberField
            value={onion.apart}
            label="Frames apart"
            min={1}
            max={1000}
            width={44}
            onset={(value) => value && (session.onion = { ...onion, apart: Math.round(value) })}
          />
          <span class="soft">frames apart</span>
        {/if}
        <span class="flex-1"></span>
        <form onsubmit={begin}>
          {#if pages.length > 1 && names.trim() === ''}<button class="chip" title="{seconds} s each"
              >a section for each of {pages.length} layers</button
            >{/if}
          <input
            class="field h-[20px] w-[130px] !px-1"
            placeholder="more sections: A, B"
            aria-label="More sections"
            bind:value={names}
            onkeydown={nameKey}
          />
        </form>
      {:else}<span class="soft">{timelineWords(rested, fps)}</span>{/if}
    </div>
  </div>
{/if}
