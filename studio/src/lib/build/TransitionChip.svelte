<script lang="ts">
  import { DIRECTIONS, easingsOf, exampleOfTransition, parseEasing, transitionKinds, transitionWords, type Transition } from '@zany/core';
  import NumberField from './NumberField.svelte';
  import { getDesk } from '$lib/shared/desk.svelte';
  import MovingPicture from '$lib/shared/MovingPicture.svelte';
  import Popover from '$lib/shared/Popover.svelte';

  interface Props {
    transition: Transition;
    onchange: (transition: Transition) => void;
    /** The types to choose from; all if none are given. */
    only?: readonly Transition['type'][];
    /** Within one frame: layers can change by dissolving or moving; frames that push or wipe are for going from one to another. */
    within?: boolean;
    /** What the chip says, if not the transition in words. */
    label?: string;
  }
  let { transition, onchange, only, within = false, label }: Props = $props();

  const kinds = $derived(
    Object.values(transitionKinds).filter((kind) => (!only || only.includes(kind.type)) && (!within || kind.isStill || kind.movesLayers))
  );

  /** Where there is nothing to choose but whether it takes time, the type goes without saying. */
  const words = $derived(
    !only ? transitionWords(transition) : transition.type === 'cut' ? 'at once' : transitionWords(transition).replace(/^\S+ /, '')
  );
  const labelOf = (kind: (typeof kinds)[number]) => (!only ? kind.label : kind.type === 'cut' ? 'at once' : 'in a time');

  let open = $state(false);
  let chip: HTMLButtonElement | undefined = $state();
  const desk = getDesk();
  /** Easings that the piece keeps under names. */
  const named = $derived(desk?.session ? easingsOf(desk.session.plain.piece.head) : []);
  const easings = ['linear', 'ease', 'ease-in', 'ease-out', 'ease-in-out', 'spring(0.3)', 'overshoot(0.1)'];
  const timed = $derived(transition.type === 'cut' ? null : transition);
  let badEasing = $state(false);
  /** The kind that is pointed at, or has the focus: what it means is said below. */
  let told: Transition['type'] | null = $state(null);

  /** The transition as one of another type: what both have stays. */
  function asType(type: Transition['type']): Transition {
    const fresh = transitionKinds[type].fresh;
    if (!timed || fresh.type === 'cut') return fresh;
    return {
      ...fresh,
      ...(fresh.type !== transition.type && 'direction' in fresh && 'direction' in transition && { direction: transition.direction }),
      ms: timed.ms,
      easing: timed.easing,
      ...(timed.delay !== undefined && { delay: timed.delay }),
      ...(timed.stagger && { stagger: timed.stagger }),
    };
  }
  const setType = (type: Transition['type']) => onchange(asType(type));
  /** It moves as it is set, or would be. */
  const example = $derived(exampleOfTransition(told === null || told === transition.type ? transition : asType(told), within));

  function setTiming(change: {
    ms?: number;
    easing?: string;
    delay?: number | undefined;
    stagger?: { by: 'order' | 'distance'; ms: number } | undefined;
  }) {
    if (!timed) return;
    badEasing = change.easing !== undefined && parseEasing(change.easing) === null;
    if (badEasing) return;
    const { delay, stagger, ...rest } = { ...timed, ...change };
    onchange({ ...rest, ...(delay && { delay }), ...(stagger?.ms && { stagger }) } as Transition);
  }
</script>

<button
  bind:this={chip}
  class="chip chip-ghost"
  aria-expanded={open}
  aria-label="{only ? 'Time' : 'Transition'}: {words}"
  onclick={() => (open = !open)}>{label ?? words}</button
>
{#if open && chip}
  <Popover anchor={chip} label="Transition" onclose={() => (open = false)} width={340}>
    <div class="flex flex-col gap-2 p-1.5">
      <div class="flex flex-wrap gap-1" class:hidden={kinds.length < 2}>
        {#each kinds as kind (kind.type)}
          <button
            class="chip {kind.type === transition.type ? 'chip-on' : ''}"
            aria-pressed={kind.type === transition.type}
            data-first={kind.type === transition.type ? '' : undefined}
            onpointerenter={() => (told = kind.type)}
            onpointerleave={() => (told = null)}
            onfocus={() => (told = kind.type)}
            onblur={() => (told = null)}
            onclick={() => setType(kind.type)}>{labelOf(kind)}</button
          >
        {/each}
      </div>
      {#if kinds.length > 1}
        <div class="flex min-h-[98px] gap-2">
          <MovingPicture {example} label={transitionKinds[told ?? transition.type].label} />
          <p class="soft flex-1">{transitionKinds[told ?? transition.type].meaning}</p>
        </div>
      {/if}
      {#if 'direction' in transition}
        <div class="flex gap-1" role="group" aria-label="Direction">
          {#each DIRECTIONS as direction (direction)}
            <button
              class="chip {direction === transition.direction ? 'chip-on' : ''}"
              aria-pressed={direction === transition.direction}
              onclick={() => onchange({ ...transition, direction })}>{{ left: '←', right: '→', up: '↑', down: '↓' }[direction]} {direction}</button
            >
          {/each}
        </div>
      {/if}
      {#if timed}
        <label class="flex items-center gap-2"
          ><input
            class="field w-20"
            type="number"
            min="0"
            max="60000"
            step="50"
            value={timed.ms}
            onchange={(event) => setTiming({ ms: Math.max(0, Math.min(60_000, event.currentTarget.valueAsNumber || 0)) })}
          /> ms</label
        >
        <div class="flex flex-wrap gap-1">
          {#each [...named.map(({ name, easing }) => [easing, name] as const), ...easings.map((easing) => [easing, easing] as const)] as [easing, word] (word)}
            <button
              class="chip {easing === timed.easing ? 'chip-on' : ''}"
              aria-pressed={easing === timed.easing}
              title={easing}
              onclick={() => setTiming({ easing })}>{word}</button
            >
          {/each}
        </div>
        <input
          class="field w-full"
          value={timed.easing}
          aria-label="Easing, as CSS writes it"
          onchange={(event) => setTiming({ easing: event.currentTarget.value })}
        />
        <div class="flex flex-wrap items-center gap-1">
          <span class="soft">after</span>
          <NumberField
            value={timed.delay ?? 0}
            label="Delay"
            min={0}
            max={60000}
            step={50}
            onset={(value) => setTiming({ delay: value || undefined })}
          />
          <span class="soft">ms, stagger</span>
          <NumberField
            value={timed.stagger?.ms ?? 0}
            label="Stagger"
            min={0}
            max={10000}
            step={10}
            onset={(value) => setTiming({ stagger: value ? { by: timed.stagger?.by ?? 'order', ms: value } : undefined })}
          />
          <span class="soft">ms</span>
          {#if timed.stagger}<button
              class="chip"
              title="In the order of painting, or by the distance from the pointer"
              onclick={() => setTiming({ stagger: { by: timed.stagger!.by === 'order' ? 'distance' : 'order', ms: timed.stagger!.ms } })}
              >by {timed.stagger.by}</button
            >{/if}
        </div>
        {#if badEasing}<p class="text-[var(--brick-text)]" role="alert">
            This is no CSS easing, such as ease-out or cubic-bezier(0.2, 0.8, 0.2, 1).
          </p>{/if}
      {/if}
    </div>
  </Popover>
{/if}
