<script lang="ts">
  import { framesPerSecond, goOn, makeSlides, makeTimedSlides, oneSlide, slideRoles, slidesOfOne, type SlideRoles, type WentOn } from '@zany/core';
  import { newId } from '$lib/client/ids';
  import type { EditorSession } from '$lib/client/session.svelte';
  import { takeFocus } from '$lib/shared/focus';
  import { boxed, lookOperations, looksLeft } from './acts';
  import { wordsWritten } from './written';
  import NumberField from './NumberField.svelte';
  import TransitionChip from './TransitionChip.svelte';

  /** Layers that take turns in one window, told apart by size: slides, arrows and dots. */
  let { session }: { session: EditorSession } = $props();

  // svelte-ignore state_referenced_locally
  const layers = boxed(session.selection.flatMap((id) => session.scene?.byId.get(id) ?? []));
  let roles: SlideRoles | null = $state.raw(slideRoles(layers));
  /** One that is to be many: they are made of it. */
  // svelte-ignore state_referenced_locally
  const one = roles ? null : oneSlide(layers);
  let written = $state('');
  const words = $derived.by(() => {
    const many = /^\s*(\d{1,2})\s*$/.exec(written);
    const own = layers.find(({ id }) => id === one?.slide);
    return many && own ? Array.from({ length: Number(many[1]) }, () => own.text ?? own.name) : wordsWritten(written);
  });
  let ms = $state(300);
  let easing = $state('ease-out');
  let around = $state(false);
  /** Over states of a part, or over sections of the open scene's time. */
  let over: 'states' | 'time' = $state('states');
  let seconds = $state(2);

  let dragged: string | null = null;

  function put(id: string | null, at: number) {
    dragged = null;
    if (!roles || id === null) return;
    const slides = roles.slides.filter((one) => one !== id);
    slides.splice(at, 0, id);
    roles = { ...roles, slides };
  }
  const shift = (id: string, by: 1 | -1) => put(id, Math.max(0, (roles?.slides.indexOf(id) ?? 0) + by));

  const nameOf = (id: string) => layers.find((layer) => layer.id === id)?.name ?? '';
  const close = () => (session.panel = null);

  /** What can be pressed is seen to be, where it has no looks yet. */
  function withLooks(begun: WentOn, pressed: readonly (string | null)[]): WentOn {
    const { piece } = begun.program;
    const plain = pressed
      .flatMap((id) => (id === null ? [] : (piece.layers.get(id) ?? [])))
      .filter((layer) => looksLeft(layer, ['hover', 'press']).length === 2);
    return goOn(begun, lookOperations(piece, plain, ['hover']));
  }

  /** The slides, of one if they are to be made of it. */
  function begin(scene: string): (WentOn & { readonly roles: SlideRoles }) | null {
    const begun: WentOn = { program: session.plain, operations: [] };
    if (one) return slidesOfOne(withLooks(begun, [...(one.arrows ?? []), one.dot]), scene, one, words, newId);
    return roles && { ...withLooks(begun, [...(roles.arrows ?? []), ...roles.dots]), roles };
  }

  function apply() {
    const scene = session.sceneId;
    const begun = scene === null ? null : begin(scene);
    if (scene === null || !begun) return;
    const { program, operations, roles: all } = begun;
    const name = `Make ${all.slides.length} slides`;
    if (over === 'time') {
      const frames = seconds * framesPerSecond(program);
      const made = makeTimedSlides(program.piece, scene, all, { frames, timing: { ms, easing }, around }, newId);
      close();
      session.edit(`${name} in time`, [...operations, ...made], 'plain');
      return;
    }
    const made = makeSlides(program, scene, all, { name: 'Slides', timing: { ms, easing }, around }, newId);
    close();
    if (made && session.edit(name, [...operations, ...made.operations], 'plain')) session.select([made.placement]);
  }

  /** Where words are asked for, these come first. */
  const takesFocus = (node: HTMLElement) => void (one === null && node.focus());

  const light = (ids: readonly string[]) => (session.lit = ids);
</script>

<div class="flex min-h-0 flex-1 flex-col gap-2.5" role="dialog" aria-label="Make slides">
  <h3 class="text-[15px]">Make slides</h3>
  {#if one}
    <input
      class="field w-full"
      placeholder="3, or their words: Wind, Tide, Fog"
      aria-label="How many slides, or their words"
      bind:value={written}
      onkeydown={(event) => {
        event.stopPropagation();
        if (event.key === 'Enter' && words.length > 1) apply();
        if (event.key === 'Escape') close();
      }}
      use:takeFocus
    />
    <p class="soft">
      {words.length > 1 ? `${words.length} slides` : 'Two or more slides'} of {nameOf(one.slide)}{one.dot === null
        ? ''
        : `, and a dot for each of ${nameOf(one.dot)}`}.
    </p>
  {/if}
  {#if roles}
    <ol class="scroll flex max-h-[180px] flex-col gap-1" aria-label="Slides in order">
      {#each roles.slides as id, n (id)}
        <li
          class="flex items-center gap-1.5"
          draggable="true"
          ondragstart={() => (dragged = id)}
          ondragover={(event) => dragged !== null && event.preventDefault()}
          ondrop={(event) => (event.preventDefault(), put(dragged, n))}
          onpointerenter={() => light([id])}
          onpointerleave={() => light([])}
        >
          <span class="soft w-4 text-right">{n + 1}</span><span class="min-w-0 flex-1 truncate">{nameOf(id)}</span>
          <button class="chip chip-ghost" aria-label="{nameOf(id)} earlier" disabled={n === 0} onclick={() => shift(id, -1)}>↑</button>
          <button class="chip chip-ghost" aria-label="{nameOf(id)} later" disabled={n === roles.slides.length - 1} onclick={() => shift(id, 1)}
            >↓</button
          >
        </li>
      {/each}
    </ol>
    <button class="chip self-start" onclick={() => roles && (roles = { ...roles, slides: roles.slides.toReversed() })}>the other way round</button>
  {/if}
  {#if roles || one}
    <dl class="grid grid-cols-[64px_1fr] gap-y-1">
      {#each [['arrows', (roles ?? one)?.arrows ?? []], ['dots', roles?.dots ?? (one?.dot ? [one.dot] : [])]] as const as [word, ids] (word)}
        <dt class="soft">{word}</dt>
        <dd onpointerenter={() => light(ids)} onpointerleave={() => light([])}>{ids.map(nameOf).join(', ') || 'none'}</dd>
      {/each}
    </dl>
    <div class="flex items-center gap-1.5" role="group" aria-label="Over what they take turns">
      <button class="chip {over === 'states' ? 'chip-on' : ''}" aria-pressed={over === 'states'} onclick={() => (over = 'states')}>over states</button
      >
      <button class="chip {over === 'time' ? 'chip-on' : ''}" aria-pressed={over === 'time'} onclick={() => (over = 'time')}>over time</button>
      {#if over === 'time'}<NumberField
          value={seconds}
          label="Seconds each"
          min={0.1}
          max={600}
          width={52}
          onset={(value) => (seconds = value ?? 2)}
        /><span class="soft">s each</span>{/if}
    </div>
    <p class="soft">
      {over === 'states'
        ? 'A part with a state for each slide. Arrows go back and on, dots go to their slide and follow.'
        : 'A section for each slide, in which it alone is there. Arrows turn to the one before and after, dots play theirs and follow.'}
    </p>
    <div class="flex flex-wrap items-center gap-1.5 [&_.chip]:whitespace-nowrap">
      <span class="soft">in</span><NumberField
        value={ms}
        label="Milliseconds"
        min={0}
        max={10000}
        step={50}
        width={64}
        onset={(value) => (ms = value ?? 300)}
      />
      <span class="soft">ms</span>
      <TransitionChip
        transition={{ type: 'tween', ms, easing }}
        only={['tween']}
        label={easing}
        onchange={(next) => next.type !== 'cut' && ((ms = next.ms), (easing = next.easing))}
      />
      <button class="chip {around ? 'chip-on' : ''}" aria-pressed={around} onclick={() => (around = !around)}>round and round</button>
    </div>
    <div class="flex gap-2">
      <button class="act act-go" disabled={one !== null && words.length < 2} onclick={apply} use:takesFocus>Make slides</button><button
        class="act act-plain"
        onclick={close}>Not now</button
      >
    </div>
  {:else}
    <p class="soft">Select one layer, or more of one size, and with them two arrows and a dot, or one for each, if there are some.</p>
    <button class="act act-plain self-start" onclick={close} use:takeFocus>Close</button>
  {/if}
</div>
