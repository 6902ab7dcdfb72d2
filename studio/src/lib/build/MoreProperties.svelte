<script lang="ts">
  import { DEFAULT_FAMILY, FAMILIES, setLetters, type Layer, type Letters, type Operation, type Style, isOutlined, layerKind } from '@zany/core';
  import type { EditorSession } from '$lib/client/session.svelte';
  import { chipOf, commonOf } from './common';
  import NumberField from './NumberField.svelte';
  import PaintChip from './PaintChip.svelte';
  import { align, isPainted, isShape, sameSize, setLayer, stack } from './acts';

  /** What is less often changed of the selected layers. */
  interface Props {
    session: EditorSession;
    layers: readonly Layer[];
    onstyle: (key: keyof Style, value: unknown) => void;
    onletters: (key: keyof Letters, value: unknown) => void;
  }
  let { session, layers, onstyle, onletters }: Props = $props();

  const first = $derived(layers[0]!);
  const one = $derived(layers.length === 1 ? first : null);
  const painted = $derived(layers.filter(isPainted));
  const cornered = $derived(layers.filter((layer) => isShape(layer) || layerKind(layer).draws === 'picture'));
  const lined = $derived(layers.filter((layer) => isPainted(layer) || cornered.includes(layer) || isOutlined(layer)));
  const worded = $derived(layers.filter((layer) => layer.text !== undefined));
  /** As they are set, type styles included. */
  const set = $derived(worded.map((layer) => setLetters(session.plain.piece.head, layer.letters ?? {})));
  const styleOf = <K extends keyof Style>(of: readonly Layer[], key: K) => commonOf(of, (layer) => layer.style[key]);

  const corner = $derived(commonOf(cornered, (layer) => layer.style.corner ?? 0));
  const line = $derived(commonOf(lined, (layer) => layer.style.line?.color));
  const lineWidth = $derived(commonOf(lined, (layer) => layer.style.line?.width ?? 0));
  const shadow = $derived(styleOf(cornered, 'shadow'));
  const rotation = $derived(commonOf(layers, (layer) => layer.pose.rotation ?? 0));
  const scale = $derived(commonOf(layers, (layer) => layer.pose.scale ?? 1));

  const SHADOWS = [
    ['soft', { x: 0, y: 2, blur: 6, color: '#00000033' }],
    ['deep', { x: 0, y: 8, blur: 24, color: '#00000040' }],
  ] as const;
  const setShadow = (change: Partial<NonNullable<Style['shadow']>>) => onstyle('shadow', { ...SHADOWS[0][1], ...shadow.value, ...change });

  const cropTo = (axis: 'x' | 'y', percent: number): Operation[] =>
    one ? [{ op: 'set', table: 'layers', id: one.id, path: ['crop'], value: { x: 0.5, y: 0.5, ...one.crop, [axis]: percent / 100 } }] : [];

  const anchors = [
    ['middle', 0.5, 0.5],
    ['left', 0, 0.5],
    ['right', 1, 0.5],
    ['top', 0.5, 0],
    ['bottom', 0.5, 1],
    ['corner', 0, 0],
  ] as const;
  const setPose = (key: 'rotation' | 'scale' | 'anchor', value: unknown) =>
    setLayer(session, session.selection, `Change ${key}`, ['pose', key], value);
</script>

<div class="flex flex-col gap-2.5" data-bar>
  {#if cornered.length}
    <div class="flex items-center gap-2">
      <span class="soft w-16">Corner</span>
      <NumberField value={corner.value} mixed={corner.mixed} label="Corner" min={0} width={80} onset={(value) => onstyle('corner', value ?? 0)} />
    </div>
  {/if}
  {#if lined.length}
    <div class="flex items-center gap-2">
      <span class="soft w-16">Line</span>
      <PaintChip
        {session}
        label="Colour of the line"
        paint={line.value}
        mixed={line.mixed}
        onpick={(color) => onstyle('line', { width: lineWidth.value || 1, color })}
      />
      <NumberField
        value={lineWidth.value}
        mixed={lineWidth.mixed}
        label="Width of the line"
        min={0}
        max={200}
        onset={(width) => onstyle('line', { color: line.value ?? '#26232c', width: width ?? 0 })}
      />
      <button class="chip {line.value === undefined && !line.mixed ? 'chip-on' : ''}" onclick={() => onstyle('line', undefined)}>none</button>
    </div>
  {/if}
  {#if cornered.length}
    <div class="flex flex-wrap items-center gap-1.5">
      <span class="soft w-16">Shadow</span>
      <button class="chip {shadow.value === undefined && !shadow.mixed ? 'chip-on' : ''}" onclick={() => onstyle('shadow', undefined)}>none</button>
      {#each SHADOWS as [word, value] (word)}
        <button
          class="chip {!shadow.mixed && JSON.stringify(shadow.value) === JSON.stringify(value) ? 'chip-on' : ''}"
          onclick={() => onstyle('shadow', value)}>{word}</button
        >
      {/each}
      {#if shadow.mixed}<span class="soft">mixed</span>{/if}
    </div>
    {#if shadow.value}
      <div class="flex flex-wrap items-center gap-1.5 pl-[72px]" role="group" aria-label="The shadow">
        {#each [['x', 'right'], ['y', 'down'], ['blur', 'blur']] as const as [key, word] (key)}
          <span class="soft">{word}</span>
          <NumberField
            value={shadow.value[key]}
            mixed={shadow.mixed}
            label="Shadow: {word}"
            width={40}
            min={key === 'blur' ? 0 : -500}
            max={500}
            onset={(value) => setShadow({ [key]: value ?? 0 })}
          />
        {/each}
        <PaintChip {session} label="Colour of the shadow" paint={shadow.value.color} mixed={shadow.mixed} onpick={(color) => setShadow({ color })} />
      </div>
    {/if}
  {/if}
  {#if painted.length}
    <div class="flex items-center gap-2">
      <span class="soft w-16">Fill</span>{@render oneOf(
        'see-through',
        painted.map(({ style }) => style.fill === undefined),
        () => onstyle('fill', undefined)
      )}
    </div>
  {/if}
  {#if one?.type === 'picture'}
    <div class="flex items-center gap-1">
      <span class="soft w-16">Picture</span>
      {#each [['fill', 'stretched'], ['contain', 'whole'], ['cover', 'cropped']] as const as [fit, word] (fit)}
        <button
          class="chip {(one.fit ?? 'fill') === fit ? 'chip-on' : ''}"
          aria-pressed={(one.fit ?? 'fill') === fit}
          onclick={() => setLayer(session, session.selection, `Picture ${word}`, ['fit'], fit)}>{word}</button
        >
      {/each}
    </div>
    {#if one.fit === 'cover'}
      {#each [['x', 'across'], ['y', 'down']] as const as [axis, word] (axis)}
        <label class="flex items-center gap-2"
          ><span class="soft w-16">{word}</span><input
            class="slide flex-1"
            type="range"
            min="0"
            max="100"
            aria-label="What is kept, {word}"
            value={Math.round((one.crop?.[axis] ?? 0.5) * 100)}
            oninput={(event) => session.preview(cropTo(axis, event.currentTarget.valueAsNumber))}
            onchange={(event) => session.edit('Move the crop', cropTo(axis, event.currentTarget.valueAsNumber))}
          /></label
        >
      {/each}
    {/if}
  {/if}
  {#if layers.some(isOutlined)}{@render share('Drawn', first.style.drawn, (value) => onstyle('drawn', value))}{/if}
  {#if worded.length}
    {@const family = commonOf(set, (letters) => letters.family ?? DEFAULT_FAMILY)}
    {@const leading = commonOf(set, (letters) => letters.leading ?? 1.3)}
    {@render share('Typed', worded[0]!.letters?.typed, (value) => onletters('typed', value))}
    {@render share('Counted', worded[0]!.letters?.counted, (value) => onletters('counted', value))}
    <div class="flex items-center gap-2">
      <span class="soft w-16">Type</span>
      <select
        class="field flex-1"
        aria-label="Typeface"
        value={family.mixed ? '' : family.value}
        onchange={(event) => onletters('family', event.currentTarget.value)}
      >
        {#if family.mixed}<option value="" disabled>mixed</option>{/if}
        {#each FAMILIES as name (name)}<option>{name}</option>{/each}
      </select>
    </div>
    <div class="flex items-center gap-2">
      <span class="soft w-16">Weight</span>
      {#each [400, 600, 800] as weight (weight)}{@render oneOf(
          String(weight),
          set.map((letters) => (letters.weight ?? 400) === weight),
          () => onletters('weight', weight)
        )}{/each}
    </div>
    <div class="flex items-center gap-2">
      <span class="soft w-16">Lines</span>
      <NumberField
        value={leading.value}
        mixed={leading.mixed}
        label="Line height"
        step={0.1}
        min={0.5}
        max={5}
        onset={(value) => onletters('leading', value === 1.3 ? undefined : value)}
      />
      <span class="soft">times the size</span>
    </div>
    <div class="flex flex-wrap items-center gap-1">
      <span class="soft w-16">Stands</span>
      {#each ['left', 'center', 'right'] as const as side (side)}{@render oneOf(
          side,
          set.map((letters) => letters.align === side),
          () => onletters('align', side)
        )}{/each}
      {#each ['top', 'middle', 'bottom'] as const as place (place)}{@render oneOf(
          place,
          set.map((letters) => letters.place === place),
          () => onletters('place', place)
        )}{/each}
    </div>
  {/if}
  <div class="flex items-center gap-1.5">
    <span class="soft w-16">Turned by</span>
    <NumberField
      value={rotation.value}
      mixed={rotation.mixed}
      label="Turned by"
      onset={(value) => setPose('rotation', value === 0 ? undefined : value)}
    />
    <span class="soft">°</span>
  </div>
  <div class="flex items-center gap-1.5">
    <span class="soft w-16">Scale</span>
    <NumberField
      value={Math.round((scale.value ?? 1) * 100)}
      mixed={scale.mixed}
      label="Scale"
      min={0}
      onset={(value) => setPose('scale', value === 100 ? undefined : (value ?? 100) / 100)}
    />
    <span class="soft">%</span>
  </div>
  <div class="flex flex-wrap items-center gap-1">
    <span class="soft w-16">about its</span>
    {#each anchors as [label, x, y] (label)}
      {@render oneOf(
        label,
        layers.map(({ pose }) => (pose.anchor?.x ?? 0.5) === x && (pose.anchor?.y ?? 0.5) === y),
        () => setPose('anchor', x === 0.5 && y === 0.5 ? undefined : { x, y })
      )}
    {/each}
  </div>
  {#if layers.length > 1}
    <div class="flex items-center gap-1">
      <span class="soft w-16">Same size</span>
      {#each ['width', 'height', 'both'] as const as side (side)}<button class="chip" onclick={() => sameSize(session, side)}>{side}</button>{/each}
    </div>
  {/if}
  <div class="flex flex-wrap items-center gap-1">
    <span class="soft w-16">Line up</span>
    {#each ['left', 'center', 'right', 'top', 'middle', 'bottom'] as const as edge (edge)}<button class="chip" onclick={() => align(session, edge)}
        >{edge}</button
      >{/each}
  </div>
  <div class="flex flex-wrap items-center gap-1">
    <span class="soft w-16">Order</span>
    {#each [['front', 'front'], ['forward', 'forward'], ['backward', 'backward'], ['back', 'back']] as const as [way, word] (way)}<button
        class="chip"
        onclick={() => stack(session, way)}>{word}</button
      >{/each}
  </div>
</div>

{#snippet oneOf(label: string, has: readonly boolean[], pick: () => void)}
  <button {...chipOf(has)} onclick={pick}>{label}</button>
{/snippet}

{#snippet share(label: string, value: number | undefined, onset: (value: number | undefined) => void)}
  <div class="flex items-center gap-2">
    <span class="soft w-16">{label}</span><input
      class="slide flex-1"
      type="range"
      min="0"
      max="100"
      aria-label={label}
      value={Math.round((value ?? 1) * 100)}
      onchange={(event) => onset(event.currentTarget.valueAsNumber === 100 ? undefined : event.currentTarget.valueAsNumber / 100)}
    />
  </div>
{/snippet}
