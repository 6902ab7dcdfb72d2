<script lang="ts">
  import { onDestroy } from 'svelte';
  import { durationWords, stillLayer, type Item, type LookName } from '@zany/core';
  import ChipMenu from '$lib/shared/ChipMenu.svelte';
  import { fieldKey } from '$lib/shared/focus';
  import { sceneView } from '$lib/shared/sceneView';
  import type { EditorSession } from '$lib/client/session.svelte';
  import { addLook, removeLook, writeText, writtenText } from './acts';
  import { aLook, labelOfLook, looks, poseOfLook } from './look-poses';
  import TransitionChip from './TransitionChip.svelte';

  /** The looks of one layer, side by side; the one that is pressed is edited on the stage. */
  let { session, item }: { session: EditorSession; item: Item } = $props();

  onDestroy(() => (session.triedLook = null));

  const { id } = $derived(item.layer);
  const scale = $derived(Math.min(1.5, 120 / item.box.width, 66 / item.box.height));
  const has = (look: 'rest' | LookName) => look === 'rest' || session.piece.layers.get(id)?.looks?.[look] !== undefined;
  const shown = $derived(looks.filter((look) => has(look.name)));
  const missing = $derived(looks.filter((look) => !has(look.name)));
  /** A new look is made from the one that is open. */
  const from = $derived(session.lookLayer === id ? session.look : 'rest');
  const isOpen = (look: string) => (session.lookLayer === id ? session.look : 'rest') === look;
  const lookOf = (look: 'rest' | LookName) => (look === 'rest' ? undefined : session.piece.layers.get(id)?.looks?.[look]);

  const alone = (look: 'rest' | LookName) =>
    session.sceneId === null ? null : stillLayer(session.program, session.sceneId, id, { state: session.stateId, ...poseOfLook(look, id) });

  const setTiming = (look: LookName, ms: number, easing: string) =>
    session.edit(
      `How it comes to ${labelOfLook(look)}`,
      [
        { op: 'set', table: 'layers', id, path: ['looks', look, 'ms'], value: ms },
        { op: 'set', table: 'layers', id, path: ['looks', look, 'easing'], value: easing },
      ],
      'plain'
    );

  const rename = (text: string) => writeText(session, item.layer, text);
</script>

{#each shown as look (look.name)}
  {@const own = lookOf(look.name)}
  <div class="flex shrink-0 flex-col gap-1" role="group" aria-label="{look.label} look">
    <button
      class="grid h-[88px] w-[146px] place-items-center overflow-hidden rounded-lg border-2 bg-[var(--sheet)] {isOpen(look.name)
        ? 'border-[var(--gold)]'
        : 'border-[var(--line)]'}"
      aria-pressed={isOpen(look.name)}
      aria-label="{look.label} look"
      onclick={() => session.openLookOf(id, look.name)}
      onpointerenter={() => (session.triedLook = { layer: id, name: look.name })}
      onpointerleave={() => (session.triedLook = null)}
    >
      <span class="pointer-events-none block" style:width="{item.box.width * scale}px" style:height="{item.box.height * scale}px">
        <span class="block origin-top-left" style:transform="scale({scale})" use:sceneView={{ screen: alone(look.name), assetUrl: session.assetUrl }}
        ></span>
      </span>
    </button>
    <span class="flex w-[146px] items-center gap-1 px-0.5">
      <span class="truncate font-semibold">{look.label}</span>
      {#if look.name !== 'rest'}
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
            onclick={() => removeLook(session, id, look.name as LookName)}>✕</button
          >{/if}
      {/if}
    </span>
  </div>
{/each}
{#if session.canEdit}
  {#if missing.length}
    <div
      class="flex h-[104px] w-[330px] shrink-0 flex-col justify-center gap-1.5 rounded-lg border-2 border-dashed border-[var(--line)] px-3"
      role="group"
      aria-label="Add a look"
    >
      <span class="soft"
        >add a look from <ChipMenu
          name="Made from"
          label={labelOfLook(from)}
          tone="chip-ghost"
          options={shown.map((look) => ({ value: look.name, label: look.label }))}
          onpick={(name) => session.openLookOf(id, name)}
        /></span
      >
      <span class="flex flex-wrap gap-1 [&_.chip]:!px-1.5">
        {#each missing as look (look.name)}
          <button class="chip" aria-label="add {aLook(look.name)}" onclick={() => addLook(session, id, look.name, from)}>+ {look.label}</button>
        {/each}
      </span>
    </div>
  {/if}
  {#if item.layer.text !== undefined}
    <label class="flex w-[170px] flex-col gap-1 self-start"
      ><span class="soft">text {isOpen('rest') && session.reach === null ? '' : `in ${labelOfLook(session.look)}`}</span><input
        class="field"
        value={writtenText(session, item.layer)}
        aria-label="Text of the look"
        onkeydown={fieldKey}
        onchange={(event) => rename(event.currentTarget.value)}
      /></label
    >
  {/if}
{/if}
