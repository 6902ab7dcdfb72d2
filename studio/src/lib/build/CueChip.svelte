<script lang="ts">
  import { cueKind, cuesFor, cueWords, exampleOfCue, KEY_NAMES, keyWords, type Cue, type CueType, type LineScope, type OwnerKind } from '@zany/core';
  import { formOfCue, piecesOf, withField } from '@zany/core';
  import MovingPicture from '$lib/shared/MovingPicture.svelte';
  import Popover from '$lib/shared/Popover.svelte';
  import SlotChip from './SlotChip.svelte';

  let { cue, on, scope, onchange }: { cue: Cue; on: OwnerKind; scope: LineScope; onchange: (cue: Cue) => void } = $props();

  let open = $state(false);
  let chip: HTMLButtonElement | undefined = $state();
  const words = $derived(cueWords(cue, scope).replace(/^When /, ''));

  /** The kind that is pointed at, or has the focus: what it means is said below. */
  let told: CueType | null = $state(null);

  const example = $derived(exampleOfCue(told ?? cue.type));

  const setType = (type: CueType) => cue.type !== type && onchange(cueKind(type).fresh);

  /** A key pressed in the field is the key meant. */
  function takeKey(event: KeyboardEvent) {
    if (event.key === 'Tab' || event.key === 'Escape') return;
    event.preventDefault();
    event.stopPropagation();
    if (!['Shift', 'Control', 'Alt', 'Meta'].includes(event.key)) onchange({ type: 'key', key: event.key === ' ' ? 'Space' : event.key });
  }
</script>

<button bind:this={chip} class="chip" aria-expanded={open} aria-label="Cue: {words}" onclick={() => (open = !open)}>{words}</button>
{#if open && chip}
  <Popover anchor={chip} label="Cue" onclose={() => (open = false)} width={340}>
    <div class="flex flex-col gap-2 p-1.5">
      <div class="flex flex-wrap gap-1">
        {#each cuesFor(on) as type (type)}
          <button
            class="chip {type === cue.type ? 'chip-on' : ''}"
            aria-pressed={type === cue.type}
            data-first={type === cue.type ? '' : undefined}
            aria-describedby="cue-meaning"
            onpointerenter={() => (told = type)}
            onpointerleave={() => (told = null)}
            onfocus={() => (told = type)}
            onblur={() => (told = null)}
            onclick={() => setType(type)}>{cueKind(type).label}</button
          >
        {/each}
      </div>
      <div class="flex min-h-[98px] gap-2">
        {#if example}<MovingPicture {example} label={cueKind(told ?? cue.type).label} />{/if}
        <p id="cue-meaning" class="soft flex-1"><b>{cueKind(told ?? cue.type).label}</b>: {cueKind(told ?? cue.type).meaning}</p>
      </div>
      {#if cue.type === 'key'}
        <input
          class="field w-full"
          readonly
          value={keyWords(cue.key)}
          aria-label="Press the key that is meant"
          onkeydown={takeKey}
          placeholder="press a key"
        />
        <div class="flex flex-wrap gap-1">
          {#each KEY_NAMES.slice(0, 9) as key (key)}<button
              class="chip {key === cue.key ? 'chip-on' : ''}"
              onclick={() => onchange({ type: 'key', key })}>{keyWords(key)}</button
            >{/each}
        </div>
      {:else}
        <div class="flex flex-wrap items-center gap-1">
          {#each piecesOf(formOfCue(cue), cue, scope) as piece, i (i)}
            {#if 'word' in piece}<span>{piece.word}</span>{:else}<SlotChip
                slot={piece.slot}
                value={piece.value}
                text={piece.text}
                whole={cue}
                {scope}
                onchange={(value) => onchange(withField(cue, piece.slot.path, value))}
              />{/if}
          {/each}
        </div>
      {/if}
    </div>
  </Popover>
{/if}
