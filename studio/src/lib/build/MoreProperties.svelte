<script lang="ts">
  import { DEFAULT_FAMILY, FAMILIES, setLetters, type Layer, type Letters, type Operation, type Style, isOutlined, layerKind } from '@zany/core';
  import type { EditorSession } from '$lib/client/session.svelte';
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
  const painted = $derived(layers.some(isPainted));
  const cornered = $derived(layers.some((layer) => isShape(layer) || layerKind(layer).draws === 'picture'));
  const hasText = $derived(layers.some((layer) => layer.text !== undefined));
  const letters = $derived(setLetters(session.plain.piece.head, first.letters ?? {}));
  const valueOf = <K extends keyof Style>(key: K) => first.style[key];

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

<div class="flex flex-col gap-2.5 p-2" data-bar>
  {#if cornered}
    <div class="flex items-center gap-2">
      <span class="soft w-16">Corner</span><input
        class="field w-20"
        type="number"
        min="0"
        aria-label="Corner"
        value={valueOf('corner') ?? 0}
        onchange={(event) => onstyle('corner', Math.max(0, event.currentTarget.valueAsNumber || 0))}
      />
    </div>
  {/if}
  {#if painted || cornered || layers.some(isOutlined)}
    <div class="flex items-center gap-2">
      <span class="soft w-16">Line</span>
      <PaintChip
        {session}
        label="Colour of the line"
        paint={valueOf('line')?.color}
        onpick={(color) => onstyle('line', { width: valueOf('line')?.width ?? 1, color })}
      />
      <input
        class="field w-16"
        type="number"
        min="0"
        max="200"
        aria-label="Width of the line"
        value={valueOf('line')?.width ?? 0}
        onchange={(event) =>
          onstyle('line', { color: valueOf('line')?.color ?? '#26232c', width: Math.max(0, event.currentTarget.valueAsNumber || 0) })}
      />
    </div>
  {/if}
  {#if cornered}
    <div class="flex items-center gap-2">
      <span class="soft w-16">Shadow</span>
      <button class="chip {valueOf('shadow') ? '' : 'chip-on'}" onclick={() => onstyle('shadow', undefined)}>none</button>
      <button class="chip" onclick={() => onstyle('shadow', { x: 0, y: 2, blur: 6, color: '#00000033' })}>soft</button>
      <button class="chip" onclick={() => onstyle('shadow', { x: 0, y: 8, blur: 24, color: '#00000040' })}>deep</button>
    </div>
  {/if}
  {#if painted}
    <div class="flex items-center gap-2">
      <span class="soft w-16">Fill</span><button class="chip" onclick={() => onstyle('fill', undefined)}>see-through</button>
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
  <div class="flex items-center gap-2">
    <span class="soft w-16">Opacity</span><input
      class="slide flex-1"
      type="range"
      min="0"
      max="100"
      aria-label="Opacity"
      value={Math.round((valueOf('opacity') ?? 1) * 100)}
      onchange={(event) => onstyle('opacity', event.currentTarget.valueAsNumber / 100)}
    />
  </div>
  {#if layers.some(isOutlined)}{@render share('Drawn', valueOf('drawn'), (value) => onstyle('drawn', value))}{/if}
  {#if hasText}
    {@render share('Typed', first.letters?.typed, (value) => onletters('typed', value))}
    {@render share('Counted', first.letters?.counted, (value) => onletters('counted', value))}
    <div class="flex items-center gap-2">
      <span class="soft w-16">Type</span>
      <select
        class="field flex-1"
        aria-label="Typeface"
        value={letters.family ?? DEFAULT_FAMILY}
        onchange={(event) => onletters('family', event.currentTarget.value)}
      >
        {#each FAMILIES as family (family)}<option>{family}</option>{/each}
      </select>
    </div>
    <div class="flex items-center gap-2">
      <span class="soft w-16">Weight</span>
      {#each [400, 600, 800] as weight (weight)}<button
          class="chip {(letters.weight ?? 400) === weight ? 'chip-on' : ''}"
          onclick={() => onletters('weight', weight)}>{weight}</button
        >{/each}
    </div>
    <div class="flex items-center gap-2">
      <span class="soft w-16">Lines</span>
      <NumberField
        value={letters.leading ?? 1.3}
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
      {#each ['left', 'center', 'right'] as const as side (side)}<button
          class="chip {letters.align === side ? 'chip-on' : ''}"
          onclick={() => onletters('align', side)}>{side}</button
        >{/each}
      {#each ['top', 'middle', 'bottom'] as const as place (place)}<button
          class="chip {letters.place === place ? 'chip-on' : ''}"
          onclick={() => onletters('place', place)}>{place}</button
        >{/each}
    </div>
  {/if}
  <div class="flex items-center gap-1.5">
    <span class="soft w-16">Turned by</span>
    <NumberField value={first.pose.rotation ?? 0} label="Turned by" onset={(value) => setPose('rotation', value === 0 ? undefined : value)} />
    <span class="soft">° scale</span>
    <NumberField
      value={Math.round((first.pose.scale ?? 1) * 100)}
      label="Scale"
      min={0}
      onset={(value) => setPose('scale', value === 100 ? undefined : (value ?? 100) / 100)}
    />
    <span class="soft">%</span>
  </div>
  <div class="flex flex-wrap items-center gap-1">
    <span class="soft w-16">about its</span>
    {#each anchors as [label, x, y] (label)}
      <button
        class="chip {(first.pose.anchor?.x ?? 0.5) === x && (first.pose.anchor?.y ?? 0.5) === y ? 'chip-on' : ''}"
        onclick={() => setPose('anchor', x === 0.5 && y === 0.5 ? undefined : { x, y })}>{label}</button
      >
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
