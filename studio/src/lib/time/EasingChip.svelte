<script lang="ts">
  import {
    addEasing,
    changeEasing,
    copiedKeys,
    count,
    easeKeys,
    easingName,
    easingsOf,
    easingUses,
    parseEasing,
    removeEasing,
    renameEasing,
    swingOf,
    swung,
    type Timeline,
  } from '@zany/core';
  import NamedRow from '$lib/build/NamedRow.svelte';
  import { newId } from '$lib/client/ids';
  import { fieldKey } from '$lib/shared/focus';
  import Popover from '$lib/shared/Popover.svelte';
  import type { Seam } from './seam-state.svelte';

  /** How the chosen keys lead on to the next: by name, by the names of the CSS standard, or as it is written. */
  let { seam, timeline }: { seam: Seam; timeline: Timeline } = $props();

  const STANDARD = ['linear', 'ease', 'ease-in', 'ease-out', 'ease-in-out', 'spring(0.3)', 'overshoot(0.1)', 'steps(4)'];

  let open = $state(false);
  let chip: HTMLButtonElement | undefined = $state();
  let wrong = $state('');

  const piece = $derived(seam.session.plain.piece);
  const named = $derived(easingsOf(piece.head));
  const uses = $derived(open ? easingUses(piece) : new Map<string, number>());
  const held = $derived([...new Set(copiedKeys(timeline, seam.keys).flatMap(({ keys }) => keys.map(({ easing }) => easing ?? 'linear')))]);
  const own = $derived(held.length === 1 ? held[0]! : null);
  const words = $derived(own === null ? 'several easings' : (easingName(piece.head, own) ?? own));
  const swing = $derived(own === null ? null : swingOf(own));

  function set(easing: string) {
    wrong = parseEasing(easing) === null ? `“${easing}” is no easing. Write ease-out, cubic-bezier(0.3, 0, 0.2, 1), spring(0.4) …` : '';
    if (!wrong) seam.edit(`Easing ${easingName(piece.head, easing) ?? easing}`, (now) => easeKeys(now, seam.keys, easing));
  }

  function keep(event: Event & { currentTarget: HTMLInputElement }) {
    const name = event.currentTarget.value.trim();
    event.currentTarget.value = '';
    if (name && own !== null) seam.session.edit(`Name the easing ${name}`, addEasing(piece, name, own, newId), 'plain');
  }
</script>

<button
  bind:this={chip}
  class="chip max-w-[170px] truncate"
  aria-haspopup="dialog"
  aria-expanded={open}
  aria-label="Easing: {words}"
  onclick={() => (open = !open)}>{words}</button
>
{#if open && chip}
  <Popover anchor={chip} label="Easing" onclose={() => (open = false)} width={280}>
    <div class="flex flex-col gap-2 p-1.5" data-bar>
      {#if named.length}
        <div role="group" aria-label="Easings of the piece">
          {#each named as one (one.id)}
            <NamedRow
              name={one.name}
              what="easing"
              does="Ease by"
              isUsed={own === one.easing}
              words={count(uses.get(one.easing) ?? 0, 'place')}
              stays="what goes by it goes on so"
              looks={one.easing}
              onpick={() => set(one.easing)}
              onname={(name) => seam.session.edit(`Rename ${one.name}`, renameEasing(piece, one.id, name), 'plain')}
              onremove={() => seam.session.edit(`Remove ${one.name}`, removeEasing(piece, one.id), 'plain')}
            />
          {/each}
        </div>
      {/if}
      <div class="flex flex-wrap gap-1">
        {#each STANDARD as easing, i (easing)}
          <button
            class="chip {easing === own ? 'chip-on' : ''}"
            data-first={i === 0 ? '' : undefined}
            aria-pressed={easing === own}
            onclick={() => set(easing)}>{easing}</button
          >
        {/each}
      </div>
      <input
        class="field w-full"
        value={own ?? ''}
        aria-label="Easing, as CSS writes it"
        onkeydown={fieldKey}
        onchange={(event) => set(event.currentTarget.value)}
      />
      {#if wrong}<p class="text-[var(--brick-text)]" role="alert">{wrong}</p>{/if}
      {#if swing}
        <label class="flex items-center gap-2"
          ><span class="soft w-16">{swing.kind === 'spring' ? 'how springy' : 'how far'}</span><input
            class="slide flex-1"
            type="range"
            min="0"
            max="1"
            step="0.01"
            value={swing.amount}
            aria-label={swing.kind === 'spring' ? 'How springy' : 'How far beyond'}
            oninput={(event) => seam.preview((now) => easeKeys(now, seam.keys, swung(swing.kind, event.currentTarget.valueAsNumber)))}
            onchange={(event) => (seam.preview(null), set(swung(swing.kind, event.currentTarget.valueAsNumber)))}
          /></label
        >
      {/if}
      {#if own !== null && easingName(piece.head, own) === undefined}
        <input class="field w-full" placeholder="keep {own} under a name" aria-label="Name for this easing" onkeydown={fieldKey} onchange={keep} />
        {#each named as one (one.id)}<button
            class="menu-row"
            onclick={() => seam.session.edit(`Change ${one.name}`, changeEasing(piece, one.id, own), 'plain')}
            >“{one.name}” becomes this, in {count(uses.get(one.easing) ?? 0, 'place')}</button
          >{/each}
      {/if}
    </div>
  </Popover>
{/if}
