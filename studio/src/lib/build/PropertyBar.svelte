<script lang="ts">
  import {
    DEFAULT_FAMILY,
    FAMILIES,
    coloursOf,
    recolour,
    restyle,
    setBox,
    typesOf,
    type Letters,
    type Operation,
    type Rect,
    type Style,
  } from '@zany/core';
  import Popover from '$lib/shared/Popover.svelte';
  import type { EditorSession } from '$lib/client/session.svelte';
  import BehavesPanel from './BehavesPanel.svelte';
  import NumberField from './NumberField.svelte';
  import { align, moveIntoView, outlineOnly, replaceFile, sameSize, setLayer, spread, stack } from './acts';

  let {
    session,
    around,
    scale,
    frameWidth,
    frameHeight,
    room,
  }: { session: EditorSession; around: Rect; scale: number; frameWidth: number; frameHeight: number; room: { left: number; right: number } } =
    $props();

  let more = $state(false);
  let behaves = $state(false);
  let behavesButton: HTMLButtonElement | undefined = $state();
  let moreButton: HTMLButtonElement | undefined = $state();

  const layers = $derived(session.selection.flatMap((id) => session.scene?.byId.get(id)?.layer ?? []));
  const one = $derived(layers.length === 1 ? layers[0]! : null);
  const painted = $derived(layers.some((layer) => layer.type === 'box' || layer.type === 'oval'));
  const hasText = $derived(layers.some((layer) => layer.text !== undefined));
  const first = $derived(layers[0]);

  const valueOf = <K extends keyof Style>(key: K) => first?.style[key];
  const letters = $derived(first?.letters ?? {});
  const lookWord = $derived(session.look === 'rest' ? '' : `${session.look} look`);

  function setStyle(key: keyof Style, value: unknown) {
    session.edit(`Change ${key}${lookWord && ` in the ${lookWord}`}`, restyle(session.piece, session.selection, [key], value));
  }

  function setLetters(key: keyof Letters, value: unknown) {
    session.edit(`Change ${key}`, restyle(session.piece, session.selection, ['letters', key], value));
  }

  function setNumber(key: 'x' | 'y' | 'width' | 'height', event: Event) {
    const value = (event.currentTarget as HTMLInputElement).valueAsNumber;
    if (!one || !session.sceneId || !Number.isFinite(value)) return;
    session.edit(
      'Set the place',
      setBox(session.settled, session.sceneId, one.id, { ...around, [key]: key === 'width' || key === 'height' ? Math.max(1, value) : value })
    );
  }

  const cropTo = (axis: 'x' | 'y', percent: number): Operation[] =>
    one ? [{ op: 'set', table: 'layers', id: one.id, path: ['crop'], value: { x: 0.5, y: 0.5, ...one.crop, [axis]: percent / 100 } }] : [];

  const isOutside = $derived(around.x < 0 || around.y < 0 || around.x + around.width > frameWidth || around.y + around.height > frameHeight);

  /** What the piece is painted and set with already, the most used first: found when the panel is opened. */
  const colors = $derived(more ? coloursOf(session.plain.piece) : []);
  const types = $derived(more ? typesOf(session.plain.piece) : []);

  /** The colour of what is selected, to be changed in the whole piece. */
  const everywhere = $derived(first?.style.fill ?? first?.style.ink ?? null);

  const setType = (wanted: Letters) =>
    session.edit(
      'Set the type',
      session.selection.flatMap((id): Operation[] =>
        session.piece.layers.get(id)?.text === undefined ? [] : [{ op: 'set', table: 'layers', id, path: ['letters'], value: wanted }]
      )
    );

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

  /** The six digits a colour field wants; what is see-through is kept apart. */
  const hex = (color: string | undefined, otherwise: string) => (color ?? otherwise).slice(0, 7);
  const bottom = $derived((around.y + around.height) * scale + 12);
  const top = $derived(around.y * scale - 46);
  let barWidth = $state(300);
  const left = $derived(Math.max(room.left, Math.min(around.x * scale, room.right - barWidth)));
  const place = $derived(top > -30 ? top : Math.min(bottom, frameHeight * scale + 8));
</script>

<div
  class="absolute z-20 flex h-[34px] items-center whitespace-nowrap gap-2 rounded-lg bg-[var(--bar)] px-2.5 text-[12.5px] text-[var(--bar-ink)] shadow-lg"
  bind:clientWidth={barWidth}
  style:left="{left}px"
  style:top="{place}px"
  data-bar
  role="toolbar"
  aria-label="Properties{lookWord && ` of the ${lookWord}`}"
  tabindex="-1"
  onpointerdown={(event) => event.stopPropagation()}
  onkeydown={(event) => event.target instanceof HTMLInputElement && event.stopPropagation()}
>
  {#if lookWord}<span class="whitespace-nowrap rounded bg-[var(--gold)] px-1.5 font-semibold text-[#26232c]">{lookWord}</span>{/if}
  {#if one}
    {#each ['x', 'y', 'width', 'height'] as const as key (key)}
      <label class="flex items-center gap-1"
        ><span class="opacity-60">{{ x: 'x', y: 'y', width: 'w', height: 'h' }[key]}</span><input
          class="w-[44px] rounded bg-transparent px-0.5 text-right outline-offset-0 hover:bg-white/10"
          type="number"
          value={Math.round(around[key] * 100) / 100}
          aria-label={key}
          onchange={(event) => setNumber(key, event)}
        /></label
      >
    {/each}
  {:else}
    <span>{layers.length} layers</span>
    <button class="rounded px-1 hover:bg-white/15" title="Line up the left edges" aria-label="Line up left" onclick={() => align(session, 'left')}
      >⊢</button
    >
    <button class="rounded px-1 hover:bg-white/15" title="Line up the tops" aria-label="Line up tops" onclick={() => align(session, 'top')}>⊤</button>
    {#if layers.length > 2}
      <button
        class="rounded px-1 hover:bg-white/15"
        title="Spread evenly across"
        aria-label="Spread evenly across"
        onclick={() => spread(session, 'x')}>⇹</button
      >
      <button class="rounded px-1 hover:bg-white/15" title="Spread evenly down" aria-label="Spread evenly down" onclick={() => spread(session, 'y')}
        >⇳</button
      >
    {/if}
    {#if isOutside}<button
        class="whitespace-nowrap rounded px-1 hover:bg-white/15"
        title="Move it into the scene by the nearest edge"
        aria-label="Move into view"
        onclick={() => moveIntoView(session)}>into view</button
      >{/if}
    <button class="rounded px-1 hover:bg-white/15" title="Pair with frames (P)" onclick={() => (session.panel = 'pair up')}>pair up</button>
  {/if}
  {#if painted}
    <label class="relative flex items-center" title="Fill"
      ><span class="h-4 w-4 rounded border border-white/40" style:background={valueOf('fill') ?? 'transparent'}></span><input
        class="absolute inset-0 h-full w-full cursor-pointer opacity-0"
        type="color"
        aria-label="Fill"
        value={hex(valueOf('fill'), '#f0b13c')}
        onchange={(event) => setStyle('fill', event.currentTarget.value)}
      /></label
    >
  {/if}
  {#if painted}
    <button
      class="rounded border border-white/50 px-1 leading-[18px] hover:bg-white/15"
      title="See-through, with an outline"
      aria-label="Outline only"
      onclick={() => outlineOnly(session)}>▢</button
    >
  {/if}
  {#if hasText}
    <label class="relative flex items-center" title="Colour of the text"
      ><span class="border-b-[3px] font-bold leading-tight" style:border-color={valueOf('ink') ?? '#26232c'}>A</span><input
        class="absolute inset-0 h-full w-full cursor-pointer opacity-0"
        type="color"
        aria-label="Colour of the text"
        value={hex(valueOf('ink'), '#26232c')}
        onchange={(event) => setStyle('ink', event.currentTarget.value)}
      /></label
    >
    <input
      class="w-[34px] rounded bg-transparent text-right hover:bg-white/10"
      type="number"
      min="1"
      max="1000"
      aria-label="Size of the text"
      title="Size of the text"
      value={letters.size ?? 16}
      onchange={(event) => setLetters('size', Math.max(1, event.currentTarget.valueAsNumber || 16))}
    />
  {/if}
  {#if one?.asset !== undefined}
    <label class="relative cursor-pointer whitespace-nowrap rounded px-1 hover:bg-white/15" title="Another file in its place"
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
    bind:this={behavesButton}
    class="rounded px-1.5 whitespace-nowrap hover:bg-white/15"
    aria-expanded={behaves}
    title="Pins, drag, hit area, how it begins"
    onclick={() => (behaves = !behaves)}>behaves</button
  >
  <button
    bind:this={moreButton}
    class="rounded px-1.5 hover:bg-white/15"
    aria-label="More properties"
    aria-expanded={more}
    onclick={() => (more = !more)}>⋯</button
  >
</div>

{#if behaves && behavesButton && first}
  <Popover anchor={behavesButton} label="How it behaves" onclose={() => (behaves = false)} width={330}>
    <BehavesPanel {session} {layers} />
  </Popover>
{/if}
{#if more && moreButton && first}
  <Popover anchor={moreButton} label="More properties" onclose={() => (more = false)} width={310}>
    <div class="flex flex-col gap-2.5 p-2" data-bar>
      {#if (painted || hasText) && colors.length}
        <div class="flex flex-wrap items-center gap-1" role="group" aria-label="Colours of this piece">
          <span class="soft w-16">Colours</span>
          {#each colors as color (color)}
            <button
              class="h-5 w-5 rounded border border-[var(--line)]"
              style:background={color}
              aria-label="Fill with {color}"
              title="{color}: fill; with Shift the text"
              onclick={(event) => setStyle(event.shiftKey || !painted ? 'ink' : 'fill', color)}
            ></button>
          {/each}
          {#if everywhere}
            <label class="chip chip-ghost relative" title="Everything of this colour, in the whole piece"
              ><span class="h-3 w-3 rounded-sm border border-[var(--line)]" style:background={everywhere}></span>change everywhere<input
                class="absolute inset-0 h-full w-full cursor-pointer opacity-0"
                type="color"
                aria-label="Change this colour everywhere"
                value={hex(everywhere, '#26232c')}
                onchange={(event) =>
                  session.edit('Change a colour everywhere', recolour(session.plain.piece, everywhere, event.currentTarget.value), 'plain')}
              /></label
            >
          {/if}
        </div>
      {/if}
      {#if hasText && types.length > 1}
        <div class="flex flex-wrap items-center gap-1" role="group" aria-label="Type of this piece">
          <span class="soft w-16">Set as</span>
          {#each types as type (type.words)}
            <button class="chip max-w-[110px]" title={type.words} onclick={() => setType(type.letters)}
              ><span class="truncate" style:font-family={type.letters.family} style:font-weight={type.letters.weight}>{type.size} {type.from}</span
              ></button
            >
          {/each}
        </div>
      {/if}
      {#if painted || layers.some((layer) => layer.type === 'picture')}
        <div class="flex items-center gap-2">
          <span class="soft w-16">Corner</span><input
            class="field w-20"
            type="number"
            min="0"
            aria-label="Corner"
            value={valueOf('corner') ?? 0}
            onchange={(event) => setStyle('corner', Math.max(0, event.currentTarget.valueAsNumber || 0))}
          />
        </div>
        <div class="flex items-center gap-2">
          <span class="soft w-16">Line</span>
          <input
            type="color"
            class="h-7 w-9"
            aria-label="Colour of the line"
            value={hex(valueOf('line')?.color, '#26232c')}
            onchange={(event) => setStyle('line', { width: valueOf('line')?.width ?? 1, color: event.currentTarget.value })}
          />
          <input
            class="field w-16"
            type="number"
            min="0"
            max="200"
            aria-label="Width of the line"
            value={valueOf('line')?.width ?? 0}
            onchange={(event) =>
              setStyle('line', { color: valueOf('line')?.color ?? '#26232c', width: Math.max(0, event.currentTarget.valueAsNumber || 0) })}
          />
        </div>
        <div class="flex items-center gap-2">
          <span class="soft w-16">Shadow</span>
          <button class="chip {valueOf('shadow') ? '' : 'chip-on'}" onclick={() => setStyle('shadow', undefined)}>none</button>
          <button class="chip" onclick={() => setStyle('shadow', { x: 0, y: 2, blur: 6, color: '#00000033' })}>soft</button>
          <button class="chip" onclick={() => setStyle('shadow', { x: 0, y: 8, blur: 24, color: '#00000040' })}>deep</button>
        </div>
        {#if painted}<div class="flex items-center gap-2">
            <span class="soft w-16">Fill</span><button class="chip" onclick={() => setStyle('fill', undefined)}>see-through</button>
          </div>{/if}
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
          onchange={(event) => setStyle('opacity', event.currentTarget.valueAsNumber / 100)}
        />
      </div>
      {#if hasText}
        <div class="flex items-center gap-2">
          <span class="soft w-16">Type</span>
          <select
            class="field flex-1"
            aria-label="Typeface"
            value={letters.family ?? DEFAULT_FAMILY}
            onchange={(event) => setLetters('family', event.currentTarget.value)}
          >
            {#each FAMILIES as family (family)}<option>{family}</option>{/each}
          </select>
        </div>
        <div class="flex items-center gap-2">
          <span class="soft w-16">Weight</span>
          {#each [400, 600, 800] as weight (weight)}<button
              class="chip {(letters.weight ?? 400) === weight ? 'chip-on' : ''}"
              onclick={() => setLetters('weight', weight)}>{weight}</button
            >{/each}
        </div>
        <div class="flex items-center gap-2">
          <span class="soft w-16">Stands</span>
          {#each ['left', 'center', 'right'] as const as side (side)}<button
              class="chip {letters.align === side ? 'chip-on' : ''}"
              onclick={() => setLetters('align', side)}>{side}</button
            >{/each}
          {#each ['top', 'middle', 'bottom'] as const as place (place)}<button
              class="chip {letters.place === place ? 'chip-on' : ''}"
              onclick={() => setLetters('place', place)}>{place}</button
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
          {#each ['width', 'height', 'both'] as const as side (side)}<button class="chip" onclick={() => sameSize(session, side)}>{side}</button
            >{/each}
        </div>
      {/if}
      <div class="flex flex-wrap items-center gap-1">
        <span class="soft w-16">Line up</span>
        {#each ['left', 'center', 'right', 'top', 'middle', 'bottom'] as const as edge (edge)}<button
            class="chip"
            onclick={() => align(session, edge)}>{edge}</button
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
  </Popover>
{/if}
