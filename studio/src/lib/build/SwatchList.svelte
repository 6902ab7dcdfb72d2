<script lang="ts">
  import { addSwatch, changeSwatch, colorOf, coloursOf, count, paintOf, recolour, removeSwatch, swatchesOf, swatchIn, swatchUses } from '@zany/core';
  import { newId } from '$lib/client/ids';
  import type { EditorSession } from '$lib/client/session.svelte';
  import { fieldKey } from '$lib/shared/focus';
  import { alphaOf, colorIn, withAlpha } from './colours';
  import NamedRow from './NamedRow.svelte';
  import NumberField from './NumberField.svelte';

  /** The swatches of the piece and the other colours in it: to paint with, to name, and to change everywhere. */
  interface Props {
    session: EditorSession;
    /** What is painted with now. */
    paint: string | undefined;
    onpick: (paint: string) => void;
  }
  let { session, paint, onpick }: Props = $props();

  const piece = $derived(session.plain.piece);
  const swatches = $derived(swatchesOf(piece.head));
  const uses = $derived(swatchUses(piece));
  const colors = $derived(coloursOf(piece));
  const own = $derived(swatchIn(paint));
  const plain = $derived(own === null ? paint : undefined);

  function keep(event: Event & { currentTarget: HTMLInputElement }) {
    const name = event.currentTarget.value.trim();
    event.currentTarget.value = '';
    if (name && plain) session.edit(`Name the colour ${name}`, addSwatch(piece, name, plain, newId).operations, 'plain');
  }

  const shown = $derived(colorOf(piece.head, paint));
  let written: string | null = $state(null);

  function write(event: Event & { currentTarget: HTMLInputElement }) {
    const text = event.currentTarget.value;
    const color = colorIn(text);
    written = color === null && text.trim() !== '' ? text.trim() : null;
    if (color !== null) onpick(color);
    else event.currentTarget.value = shown ?? '';
  }
</script>

<div class="flex flex-col gap-2 p-1" data-bar>
  <div class="flex items-center gap-1.5">
    <span class="h-[22px] w-[22px] shrink-0 rounded border border-[var(--line)]" style:background={shown ?? 'transparent'}></span>
    <input
      class="field h-[24px] min-w-0 flex-1 !px-1.5"
      value={shown ?? ''}
      placeholder="#0b7a75, teal, rgb(…)"
      maxlength="60"
      spellcheck="false"
      aria-label="Colour as it is written"
      onfocus={(event) => event.currentTarget.select()}
      onkeydown={fieldKey}
      onchange={write}
    />
    <NumberField
      value={shown === undefined ? 100 : Math.round(alphaOf(shown) * 100)}
      label="How much of the colour is seen"
      width={44}
      min={0}
      max={100}
      onset={(percent) => shown !== undefined && onpick(withAlpha(shown, (percent ?? 100) / 100))}
    />
    <span class="soft">%</span>
  </div>
  {#if written !== null}<p class="text-[var(--brick-text)]" role="alert">
      “{written}” is no colour. Write a hex number (#0b7a75, with alpha #0b7a7580), a name such as teal, or rgb(11, 122, 117).
    </p>{/if}
  {#if swatches.length}
    <div role="group" aria-label="Swatches">
      {#each swatches as swatch (swatch.id)}
        <NamedRow
          name={swatch.name}
          what="swatch"
          does="Paint with"
          isUsed={own === swatch.id}
          words={count(uses.get(swatch.id) ?? 0, 'place')}
          stays="what is painted with it keeps the colour"
          onpick={() => onpick(paintOf(swatch.id))}
          onname={(name) => session.edit(`Rename ${swatch.name}`, changeSwatch(piece, swatch.id, { name }), 'plain')}
          onremove={() => session.edit(`Remove ${swatch.name}`, removeSwatch(piece, swatch.id), 'plain')}
        >
          {#snippet lead()}
            <label class="relative h-[18px] w-[18px] shrink-0" title="Change {swatch.name} everywhere"
              ><span class="block h-full w-full rounded border border-[var(--line)]" style:background={swatch.color}></span><input
                class="absolute inset-0 h-full w-full cursor-pointer opacity-0"
                type="color"
                aria-label="Colour of {swatch.name}"
                value={swatch.color.slice(0, 7)}
                onchange={(event) =>
                  session.edit(
                    `Change ${swatch.name}`,
                    changeSwatch(piece, swatch.id, { color: event.currentTarget.value + swatch.color.slice(7) }),
                    'plain'
                  )}
              /></label
            >
          {/snippet}
        </NamedRow>
      {/each}
    </div>
  {:else}<p class="soft">A colour with a name is a swatch: change it once, and all that is painted with it follows.</p>{/if}
  {#if colors.length}
    <div class="flex flex-wrap items-center gap-1" role="group" aria-label="Other colours of this piece">
      {#each colors as color (color)}
        <button
          class="h-5 w-5 rounded border {plain?.toLowerCase() === color ? 'border-2 border-[var(--gold)]' : 'border-[var(--line)]'}"
          style:background={color}
          aria-label="Paint with {color}"
          title={color}
          onclick={() => onpick(color)}
        ></button>
      {/each}
    </div>
  {/if}
  {#if plain}
    <div class="flex items-center gap-1.5 border-t border-[var(--line)] pt-2">
      <label class="relative h-[18px] w-[18px] shrink-0" title="Change this colour in the whole piece"
        ><span class="block h-full w-full rounded border border-[var(--line)]" style:background={plain}></span><input
          class="absolute inset-0 h-full w-full cursor-pointer opacity-0"
          type="color"
          aria-label="Change this colour everywhere"
          value={plain.slice(0, 7)}
          onchange={(event) => session.edit('Change a colour everywhere', recolour(piece, plain, event.currentTarget.value), 'plain')}
        /></label
      >
      <input
        class="field h-[24px] min-w-0 flex-1 !px-1.5"
        placeholder="name this colour"
        maxlength="110"
        aria-label="Name this colour"
        onkeydown={fieldKey}
        onchange={keep}
      />
    </div>
  {:else if own !== null}
    <button class="chip chip-ghost self-start" onclick={() => onpick(colorOf(piece.head, paint!))}>a colour of its own</button>
  {/if}
</div>
