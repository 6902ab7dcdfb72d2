<script lang="ts">
  import { commonPart, setBox, setLetters, union, type Layer, type Operation, outermost } from '@zany/core';
  import type { EditorSession } from '$lib/client/session.svelte';
  import { align, isPainted, moveIntoView, outlineOnly, replaceFile, restyleSelected, spread } from './acts';
  import { commonOf } from './common';
  import NumbersField from './NumbersField.svelte';
  import PaintChip from './PaintChip.svelte';
  import TypeChip from './TypeChip.svelte';

  /** What is used most of the selected layers, at the foot of the cue sheet: it lies over nothing, and says what all of them are. */
  let { session }: { session: EditorSession } = $props();

  const items = $derived(session.selection.flatMap((id) => session.sceneToRead?.byId.get(id) ?? []));
  const layers = $derived(items.map(({ layer }) => layer));
  const one = $derived(layers.length === 1 ? layers[0]! : null);
  /** Those that have a place of their own: what is in a selected group goes along with it. */
  const outer = $derived.by(() => {
    const ids = new Set(outermost(session.plain.piece, session.selection).map(({ id }) => id));
    return items.filter(({ layer }) => ids.has(layer.id));
  });
  const around = $derived(union(items.map(({ box }) => box)));
  const painted = $derived(layers.filter(isPainted));
  const worded = $derived(layers.filter((layer) => layer.text !== undefined));
  const lookWord = $derived(session.look === 'rest' ? '' : `${session.look} look`);

  const sizeOf = (layer: Layer) => setLetters(session.plain.piece.head, layer.letters ?? {}).size ?? 16;
  const fill = $derived(commonOf(painted, (layer) => layer.style.fill));
  const ink = $derived(commonOf(worded, (layer) => layer.style.ink));

  const places = [
    { key: 'x', sign: 'x' },
    { key: 'y', sign: 'y' },
    { key: 'width', sign: 'w', min: 1 },
    { key: 'height', sign: 'h', min: 1 },
  ] as const;

  type Place = (typeof places)[number]['key'];

  const boxes = (key: Place, values: readonly number[]): Operation[] =>
    outer.flatMap(({ layer }, i) => {
      const box = session.settled.scenes.get(session.sceneId!)?.byId.get(layer.id)?.box;
      return box ? setBox(session.settled, session.sceneId!, layer.id, { ...box, [key]: values[i]! }) : [];
    });

  const opacities = (values: readonly number[]): Operation[] =>
    each(layers, ['style', 'opacity'], (i) => (values[i] === 100 ? undefined : values[i]! / 100));
  const sizes = (values: readonly number[]): Operation[] => each(worded, ['letters', 'size'], (i) => values[i]);

  const each = (of: readonly Layer[], path: string[], valueAt: (i: number) => unknown): Operation[] =>
    of.map(({ id }, i) => {
      const value = valueAt(i);
      return { op: 'set', table: 'layers', id, path, ...(value !== undefined && { value }) };
    });

  /** Escape goes back to the stage, and leaves selected what is. */
  function key(event: KeyboardEvent) {
    if (event.target instanceof HTMLInputElement || event.key === 'Escape') event.stopPropagation();
    if (event.key === 'Escape' && event.target instanceof HTMLElement) event.target.blur();
  }

  const isOutside = $derived.by(() => {
    const scene = session.sceneToRead?.scene;
    if (!around || !scene) return false;
    return around.x < 0 || around.y < 0 || around.x + around.width > scene.width || around.y + around.height > scene.height;
  });
  const togglePanel = (panel: 'behaves' | 'more') => (session.panel = session.panel === panel ? null : panel);
</script>

<div
  class="flex shrink-0 flex-col gap-1.5 border-t border-[var(--line)] bg-[var(--rim)] px-3 pb-2.5 pt-2"
  data-bar
  role="toolbar"
  aria-label="Properties{lookWord && ` of the ${lookWord}`}"
  tabindex="-1"
  onkeydown={key}
>
  <div class="flex flex-wrap items-center justify-between gap-x-1 gap-y-1">
    {#each places as { key, sign, ...bounds } (key)}
      <NumbersField
        values={outer.map(({ box }) => box[key])}
        label={key}
        {sign}
        {...bounds}
        onsee={(values) => session.preview(values && boxes(key, values))}
        onset={(values) => session.edit('Set the place', boxes(key, values))}
      />
    {/each}
  </div>
  <div class="flex flex-wrap items-center gap-x-2 gap-y-1">
    {#if painted.length}
      <PaintChip
        {session}
        label="Fill"
        paint={fill.value}
        mixed={fill.mixed}
        otherwise="#f0b13c"
        onpick={(paint) => restyleSelected(session, ['fill'], paint)}
      />
      <button class="chip" title="See-through, with an outline" aria-label="Outline only" onclick={() => outlineOnly(session)}>▢</button>
    {/if}
    {#if worded.length}
      <PaintChip
        {session}
        label="Colour of the text"
        paint={ink.value}
        mixed={ink.mixed}
        onpick={(paint) => restyleSelected(session, ['ink'], paint)}
      >
        {#snippet sign(color)}<span class="border-b-[3px] font-bold leading-tight" style:border-color={color ?? '#26232c'}>A</span>{/snippet}
      </PaintChip>
      <TypeChip {session} letters={worded[0]!.letters ?? {}} />
      <NumbersField
        values={worded.map(sizeOf)}
        label="Size of the text"
        sign="size"
        width={45}
        min={1}
        max={1000}
        onsee={(values) => session.preview(values && sizes(values))}
        onset={(values) => session.edit('Change size', sizes(values))}
      />
    {/if}
    {#if layers.some(({ type }) => type !== 'hit')}
      <NumbersField
        values={layers.map(({ style }) => (style.opacity ?? 1) * 100)}
        label="Opacity"
        sign="seen"
        unit="%"
        width={45}
        min={0}
        max={100}
        onsee={(values) => session.preview(values && opacities(values))}
        onset={(values) => session.edit('Change opacity', opacities(values))}
      />
    {/if}
    {#if layers.length > 1}
      <button class="chip" title="Line up the left edges" aria-label="Line up left" onclick={() => align(session, 'left')}>⊢</button>
      <button class="chip" title="Line up the tops" aria-label="Line up tops" onclick={() => align(session, 'top')}>⊤</button>
      {#if layers.length > 2}
        <button class="chip" title="Spread evenly across" aria-label="Spread evenly across" onclick={() => spread(session, 'x')}>⇹</button>
        <button class="chip" title="Spread evenly down" aria-label="Spread evenly down" onclick={() => spread(session, 'y')}>⇳</button>
      {/if}
      {#if commonPart(layers) !== null}<button class="chip" title="A row of a table for each of them" onclick={() => (session.panel = 'rows')}
          >from rows</button
        >{/if}
      <button class="chip" title="Pair with frames (P)" onclick={() => (session.panel = 'pair up')}>pair up</button>
    {/if}
    {#if isOutside}<button
        class="chip whitespace-nowrap"
        title="Move it into the scene by the nearest edge"
        aria-label="Move into view"
        onclick={() => moveIntoView(session)}>into view</button
      >{/if}
  </div>
  <!-- Above all, and the last that Tab comes to: numbers are what is written most. -->
  <div class="order-first flex items-center gap-1.5 whitespace-nowrap border-b border-dashed border-[var(--gold)] pb-1.5">
    <span class="min-w-0 truncate font-semibold">{one ? one.name : `${layers.length} layers`}</span>
    {#if lookWord}<span class="chip chip-gold">{lookWord}</span>{/if}
    <span class="flex-1"></span>
    {#if one?.asset !== undefined}
      <label class="chip relative cursor-pointer" title="Another file in its place"
        >replace<input
          class="absolute inset-0 h-full w-full cursor-pointer opacity-0"
          type="file"
          accept={one.type === 'picture' ? 'image/png,image/jpeg,image/webp,image/svg+xml' : 'video/webm,video/mp4,audio/*'}
          aria-label="Replace the file"
          onchange={(event) => {
            const [file] = event.currentTarget.files ?? [];
            if (file && one) void replaceFile(session, one.id, file);
            event.currentTarget.value = '';
          }}
        /></label
      >
    {/if}
    <button
      class="chip"
      aria-expanded={session.panel === 'behaves'}
      title="Pins, drag, hit area, how it begins"
      onclick={() => togglePanel('behaves')}>behaves</button
    >
    <button
      class="chip"
      aria-label="More properties"
      title="More properties"
      aria-expanded={session.panel === 'more'}
      onclick={() => togglePanel('more')}>⋯</button
    >
  </div>
</div>
