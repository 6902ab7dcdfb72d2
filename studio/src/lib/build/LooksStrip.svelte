<script lang="ts">
  import { onDestroy, tick } from 'svelte';
  import { durationWords, stillLayer, type Item, type LookName, type Operation } from '@zany/core';
  import ChipMenu from '$lib/shared/ChipMenu.svelte';
  import { fieldKey } from '$lib/shared/focus';
  import { sceneView } from '$lib/shared/sceneView';
  import type { EditorSession } from '$lib/client/session.svelte';
  import { addAllLooks, addLook, looksLeft, removeLook, writeText, writtenText } from './acts';
  import { aLook, labelOfLook, looks, poseOfLook } from './look-poses';
  import TransitionChip from './TransitionChip.svelte';

  /** The looks of layers, side by side; the one that is pressed is edited on the stage, of all of them at once. */
  let { session, items }: { session: EditorSession; items: readonly Item[] } = $props();

  onDestroy(() => (session.triedLook = null));

  type Look = 'rest' | LookName;

  const ids = $derived(items.map(({ layer }) => layer.id));
  const one = $derived(items.length === 1 ? items[0]!.layer : null);
  const lookIn = (id: string, look: Look) => (look === 'rest' ? undefined : session.piece.layers.get(id)?.looks?.[look]);
  /** Those that have a look; all of them have rest. */
  const having = (look: Look) => items.filter(({ layer: { id } }) => look === 'rest' || lookIn(id, look) !== undefined);
  const shown = $derived(looks.filter((look) => having(look.name).length > 0));
  const missing = $derived(looks.filter((look) => having(look.name).length < items.length));
  /** Of many it is said how many have it. */
  const wide = $derived(items.length > 1 ? 'w-[204px]' : 'w-[146px]');
  /** A new look is made from the one that is open. */
  const from = $derived(session.look);
  const isOpen = (look: Look) => session.look === look;

  const areMore = $derived(items.some(({ layer }) => looksLeft(layer).length > 1));
  /** What is pressed as it is drawn. */
  const isBare = $derived(items.every(({ layer }) => !layer.hit && layer.type !== 'placement' && layer.type !== 'group'));

  let words: HTMLInputElement | undefined = $state();

  /** The words of the last one can be written at once. */
  async function addAll() {
    addAllLooks(session, ids);
    await tick();
    words?.focus();
    words?.select();
  }

  const largerArea = () =>
    session.edit(
      'A larger area to press',
      ids.map((id): Operation => ({ op: 'set', table: 'layers', id, path: ['hit'], value: { how: 'own', grow: 8 } })),
      'plain'
    );

  const scaleOf = ({ box }: Item) => Math.min(1.5, 120 / box.width, 52 / box.height);

  const alone = (look: Look, { layer }: Item) =>
    session.sceneId === null
      ? null
      : stillLayer(session.program, session.sceneId, layer.id, { state: session.stateId, ...poseOfLook(look, [layer.id]) });

  const setTiming = (look: LookName, ms: number, easing: string) =>
    session.edit(
      `How it comes to ${labelOfLook(look)}`,
      having(look).flatMap(({ layer: { id } }): Operation[] => [
        { op: 'set', table: 'layers', id, path: ['looks', look, 'ms'], value: ms },
        { op: 'set', table: 'layers', id, path: ['looks', look, 'easing'], value: easing },
      ]),
      'plain'
    );
</script>

{#each shown as look (look.name)}
  {@const owners = having(look.name)}
  {@const item = owners[0]!}
  {@const own = lookIn(item.layer.id, look.name)}
  {@const scale = scaleOf(item)}
  <div class="flex shrink-0 flex-col gap-1" role="group" aria-label="{look.label} look">
    <button
      class="grid h-[68px] {wide} place-items-center overflow-hidden rounded-lg border-2 bg-[var(--sheet)] {isOpen(look.name)
        ? 'border-[var(--gold)]'
        : 'border-[var(--line)]'}"
      aria-pressed={isOpen(look.name)}
      aria-label="{look.label} look"
      onclick={() => session.openLookOf(ids, look.name)}
      onpointerenter={() => (session.triedLook = { layers: ids, name: look.name })}
      onpointerleave={() => (session.triedLook = null)}
    >
      <span class="pointer-events-none block" style:width="{item.box.width * scale}px" style:height="{item.box.height * scale}px">
        <span
          class="block origin-top-left"
          style:transform="scale({scale})"
          use:sceneView={{ screen: alone(look.name, item), assetUrl: session.assetUrl }}
        ></span>
      </span>
    </button>
    <span class="flex {wide} items-center gap-1 whitespace-nowrap px-0.5">
      <span class="truncate font-semibold">{look.label}</span>
      {#if look.name !== 'rest'}
        {#if items.length > 1}<span class="soft whitespace-nowrap">{owners.length} of {items.length}</span>{/if}
        <span class="ml-auto"
          ><TransitionChip
            transition={{ type: 'tween', ms: own?.ms ?? 120, easing: own?.easing ?? 'ease' }}
            only={['tween']}
            label={durationWords(own?.ms ?? 120)}
            onchange={(timing) => timing.type !== 'cut' && setTiming(look.name as LookName, timing.ms, timing.easing)}
          /></span
        >
        {#if session.canEdit}<button
            class="soft"
            aria-label="Remove the {look.label} look"
            title="Remove"
            onclick={() => removeLook(session, ids, look.name as LookName)}>✕</button
          >{/if}
      {/if}
    </span>
  </div>
{/each}
{#if session.canEdit}
  {#if missing.length}
    <div
      class="flex h-[90px] w-[330px] shrink-0 flex-col justify-center gap-1.5 rounded-lg border-2 border-dashed border-[var(--line)] px-3"
      role="group"
      aria-label="Add a look"
    >
      <span class="soft"
        >add a look from <ChipMenu
          name="Made from"
          label={labelOfLook(from)}
          tone="chip-ghost"
          options={shown.map((look) => ({ value: look.name, label: look.label }))}
          onpick={(name) => session.openLookOf(ids, name)}
        /></span
      >
      <span class="flex flex-wrap gap-1 [&_.chip]:!px-1.5">
        {#each missing as look (look.name)}
          <button class="chip" aria-label="add {aLook(look.name)}" onclick={() => addLook(session, ids, look.name as LookName, from)}
            >+ {look.label}</button
          >
        {/each}
        {#if areMore}<button class="chip" title="Hover, press, selected, and selected and hovered, each made from another one" onclick={addAll}
            >all of a button</button
          >{/if}
      </span>
    </div>
  {/if}
  <div class="flex shrink-0 flex-col items-start gap-1.5 self-start">
    {#if one?.text !== undefined}
      <label class="flex w-[170px] flex-col gap-1"
        ><span class="soft">text {isOpen('rest') && session.reach === null ? '' : `in ${labelOfLook(session.look)}`}</span><input
          class="field"
          bind:this={words}
          value={writtenText(session, one)}
          aria-label="Text of the look"
          onkeydown={fieldKey}
          onchange={(event) => writeText(session, one, event.currentTarget.value)}
        /></label
      >
    {/if}
    {#if isBare}<button class="chip" title="A press counts 8 px around it, too" onclick={largerArea}>a larger area to press</button>{/if}
  </div>
{/if}
