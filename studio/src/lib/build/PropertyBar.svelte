<script lang="ts">
  import { restyle, setBox, setLetters, type Letters, type Rect, type Style } from '@zany/core';
  import { fieldKey } from '$lib/shared/focus';
  import Popover from '$lib/shared/Popover.svelte';
  import type { EditorSession } from '$lib/client/session.svelte';
  import BehavesPanel from './BehavesPanel.svelte';
  import MoreProperties from './MoreProperties.svelte';
  import PaintChip from './PaintChip.svelte';
  import TypeChip from './TypeChip.svelte';
  import { placeBar } from './bar-place';
  import { align, isPainted, moveIntoView, outlineOnly, replaceFile, spread } from './acts';

  let {
    session,
    around,
    inView,
    view,
    frameWidth,
    frameHeight,
  }: {
    session: EditorSession;
    around: Rect;
    /** The selection in the view of the stage, which is so large; CSS px. */
    inView: Rect;
    view: { width: number; height: number };
    frameWidth: number;
    frameHeight: number;
  } = $props();

  let more = $state(false);
  let behaves = $state(false);
  let behavesButton: HTMLButtonElement | undefined = $state();
  let moreButton: HTMLButtonElement | undefined = $state();

  const layers = $derived(session.selection.flatMap((id) => session.scene?.byId.get(id)?.layer ?? []));
  const one = $derived(layers.length === 1 ? layers[0]! : null);
  const painted = $derived(layers.some(isPainted));
  const hasText = $derived(layers.some((layer) => layer.text !== undefined));
  const first = $derived(layers[0]);

  const valueOf = <K extends keyof Style>(key: K) => first?.style[key];
  const letters = $derived(first?.letters ?? {});
  const set = $derived(setLetters(session.plain.piece.head, letters));
  const lookWord = $derived(session.look === 'rest' ? '' : `${session.look} look`);

  function setStyle(key: keyof Style, value: unknown) {
    session.edit(`Change ${key}${lookWord && ` in the ${lookWord}`}`, restyle(session.piece, session.selection, [key], value));
  }

  function setLettersOf(key: keyof Letters, value: unknown) {
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

  /** Escape goes back to the stage, and leaves selected what is. */
  function key(event: KeyboardEvent) {
    if (event.target instanceof HTMLInputElement || event.key === 'Escape') event.stopPropagation();
    if (event.key === 'Escape' && event.target instanceof HTMLElement) event.target.blur();
  }

  const isOutside = $derived(around.x < 0 || around.y < 0 || around.x + around.width > frameWidth || around.y + around.height > frameHeight);

  let width = $state(300);
  let height = $state(34);
  const place = $derived(placeBar(inView, { width, height }, view));
</script>

<div
  class="absolute z-20 flex min-h-[34px] w-max flex-wrap items-center gap-x-2 whitespace-nowrap rounded-lg bg-[var(--bar)] px-2.5 text-[12.5px] text-[var(--bar-ink)] shadow-lg"
  bind:offsetWidth={width}
  bind:offsetHeight={height}
  style:max-width="{view.width - 12}px"
  style:left="{place.left}px"
  style:top="{place.top}px"
  data-bar
  role="toolbar"
  aria-label="Properties{lookWord && ` of the ${lookWord}`}"
  tabindex="-1"
  onpointerdown={(event) => event.stopPropagation()}
  onkeydown={key}
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
          onkeydown={fieldKey}
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
    <PaintChip {session} label="Fill" paint={valueOf('fill')} otherwise="#f0b13c" onpick={(paint) => setStyle('fill', paint)} />
    <button
      class="rounded border border-white/50 px-1 leading-[18px] hover:bg-white/15"
      title="See-through, with an outline"
      aria-label="Outline only"
      onclick={() => outlineOnly(session)}>▢</button
    >
  {/if}
  {#if hasText}
    <PaintChip {session} label="Colour of the text" paint={valueOf('ink')} onpick={(paint) => setStyle('ink', paint)}>
      {#snippet sign(color)}<span class="border-b-[3px] font-bold leading-tight" style:border-color={color ?? '#26232c'}>A</span>{/snippet}
    </PaintChip>
    <TypeChip {session} {letters} />
    <input
      class="w-[34px] rounded bg-transparent text-right hover:bg-white/10"
      type="number"
      min="1"
      max="1000"
      aria-label="Size of the text"
      title="Size of the text"
      onkeydown={fieldKey}
      value={set.size ?? 16}
      onchange={(event) => setLettersOf('size', Math.max(1, event.currentTarget.valueAsNumber || 16))}
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
    <MoreProperties {session} {layers} onstyle={setStyle} onletters={setLettersOf} />
  </Popover>
{/if}
