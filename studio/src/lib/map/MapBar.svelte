<script lang="ts">
  import { count } from '@zany/core';
  import type { EditorSession } from '$lib/client/session.svelte';
  import ChipMenu from '$lib/shared/ChipMenu.svelte';
  import type { MapLook } from './looks.svelte';
  import MapLegend from './MapLegend.svelte';
  import type { Sieve } from './sieve';
  import type { Since } from './since.svelte';

  /** What the map says, and which of its frames are looked for. */
  interface Props {
    session: EditorSession;
    frames: number;
    stitches: number;
    /** How many frames fit what is looked for; null where nothing is. */
    found: number | null;
    sieve: Sieve;
    since: Since;
    everyStitch: boolean;
    focusSteps: number;
    /** Some frames are led to by so many that it is said by marks. */
    hubs: boolean;
    /** So many frames were placed by hand. */
    placed: number;
    look: MapLook;
    /** Whose walks by a link are shown. */
    reviewWords: string | null;
    looks: Readonly<Partial<Record<MapLook, string>>>;
    onlook: (look: MapLook) => void;
    onfit: () => void;
    /** To the first that fits. */
    onfound: () => void;
    onarrange: () => void;
    /** Keeps the whole map as a file, or prints it. */
    onpaper: (how: 'svg' | 'print') => void;
  }
  let {
    session,
    frames,
    stitches,
    found,
    sieve = $bindable(),
    since,
    everyStitch = $bindable(),
    focusSteps = $bindable(),
    hubs,
    placed,
    look,
    reviewWords,
    looks,
    onlook,
    onfit,
    onfound,
    onarrange,
    onpaper,
  }: Props = $props();

  const kinds = $derived(Object.entries(session.piece.head.kinds ?? {}));
  const kind = $derived(sieve.kind === null ? null : (session.piece.head.kinds?.[sieve.kind] ?? null));

  let legend: HTMLElement | null = $state(null);

  function key(event: KeyboardEvent) {
    event.stopPropagation();
    if (event.key === 'Enter') onfound();
    if (event.key !== 'Escape') return;
    sieve = { ...sieve, words: '' };
    (event.currentTarget as HTMLElement).blur();
  }
</script>

<div class="pop absolute bottom-3 left-3 right-3 flex flex-wrap items-center gap-x-3 gap-y-1.5 px-3 py-1.5">
  <span><b>{frames}</b> {frames === 1 ? 'frame' : 'frames'} · <b>{stitches}</b> {stitches === 1 ? 'stitch' : 'stitches'}</span>
  <span class="flex items-center gap-1">
    <input
      class="field h-[24px] w-[130px] !px-1.5"
      placeholder="find a frame"
      aria-label="Find a frame on the map"
      value={sieve.words}
      oninput={(event) => (sieve = { ...sieve, words: event.currentTarget.value })}
      onkeydown={key}
    />
    {#if kinds.length}
      <ChipMenu
        name="Kind"
        label={kind ? `${kind.mark} ${kind.name}` : 'any kind'}
        tone={kind ? 'chip-gold' : 'chip-ghost'}
        options={[{ value: '', label: 'any kind' }, ...kinds.map(([id, one]) => ({ value: id, label: `${one.mark} ${one.name}` }))]}
        onpick={(id) => (sieve = { ...sieve, kind: id || null })}
      />
    {/if}
    <button
      class="chip {sieve.loose ? 'chip-on' : 'chip-ghost'}"
      aria-pressed={sieve.loose}
      onclick={() => (sieve = { ...sieve, loose: !sieve.loose })}>loose ends</button
    >
    <button
      class="chip {sieve.unwalked ? 'chip-on' : 'chip-ghost'}"
      aria-pressed={sieve.unwalked}
      onclick={() => (sieve = { ...sieve, unwalked: !sieve.unwalked })}>not walked</button
    >
    {#if since.options.length || since.revision !== null}
      <ChipMenu
        name="Frames that were changed"
        label={since.words}
        tone={since.revision === null ? 'chip-ghost' : 'chip-gold'}
        options={[...(since.revision === null ? [] : [{ value: null, label: 'whenever' }]), ...since.options]}
        onpick={(revision) => void since.choose(revision)}
      />
    {/if}
    {#if found !== null}<span class="soft whitespace-nowrap" aria-live="polite">{count(found, 'frame')}</span>{/if}
  </span>
  <span class="flex items-center gap-1" role="radiogroup" aria-label="Only what is around the open frame">
    <span class="soft">around it</span>
    {#each [0, 1, 2, 3] as steps (steps)}
      <button
        class="chip {focusSteps === steps ? 'chip-on' : 'chip-ghost'}"
        role="radio"
        aria-checked={focusSteps === steps}
        aria-label={steps === 0 ? 'All frames' : `${count(steps, 'step')} around the open frame`}
        onclick={() => (focusSteps = steps)}>{steps === 0 ? 'all' : steps}</button
      >
    {/each}
  </span>
  <span class="flex-1"></span>
  {#if reviewWords !== null}<span class="soft" role="status">{reviewWords}</span>{/if}
  {#if hubs}<button
      class="chip {everyStitch ? 'chip-on' : 'chip-ghost'}"
      aria-pressed={everyStitch}
      title="Also those to frames that many lead to, which are marks otherwise"
      onclick={() => (everyStitch = !everyStitch)}>every stitch</button
    >{/if}
  {#if placed && session.canEdit}<button class="chip chip-ghost" title="{count(placed, 'frame')} stand where they were put" onclick={onarrange}
      >arrange by flow</button
    >{/if}
  <button class="chip chip-ghost" aria-expanded={legend !== null} onclick={(event) => (legend = event.currentTarget)}>legend</button>
  <ChipMenu
    name="The map on paper"
    label="on paper"
    tone="chip-ghost"
    options={[
      { value: 'svg' as const, label: 'as SVG' },
      { value: 'print' as const, label: 'print, or as PDF' },
    ]}
    onpick={onpaper}
  />
  <button class="chip" onclick={onfit}>fit</button>
  <div class="flex gap-1" role="radiogroup" aria-label="What the map says">
    {#each Object.entries(looks) as [one, words] (one)}
      <button class="chip {look === one ? 'chip-teal' : 'chip-ghost'}" role="radio" aria-checked={look === one} onclick={() => onlook(one as MapLook)}
        >{words}</button
      >
    {/each}
  </div>
</div>

{#if legend}<MapLegend {session} anchor={legend} onclose={() => (legend = null)} />{/if}
