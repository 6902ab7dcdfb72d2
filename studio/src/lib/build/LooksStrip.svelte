<script lang="ts">
  import { durationWords, stillLayer, type Item, type LookName } from '@zany/core';
  import ChipMenu from '$lib/shared/ChipMenu.svelte';
  import { sceneView } from '$lib/shared/sceneView';
  import type { EditorSession } from '$lib/client/session.svelte';
  import { addLook, removeLook, setLayer } from './acts';
  import { labelOfLook, looks, poseOfLook } from './look-poses';
  import TransitionChip from './TransitionChip.svelte';

  /** The looks of one layer, side by side; the one that is pressed is edited on the stage. */
  let { session, item }: { session: EditorSession; item: Item } = $props();

  const { id } = $derived(item.layer);
  const scale = $derived(Math.min(1.5, 120 / item.box.width, 66 / item.box.height));
  const has = (look: 'rest' | LookName) => look === 'rest' || session.piece.layers.get(id)?.looks?.[look] !== undefined;
  const shown = $derived(looks.filter((look) => has(look.name)));
  const missing = $derived(looks.filter((look) => !has(look.name)));
  const usual = $derived(missing.filter((look) => look.name === 'hover' || look.name === 'press'));
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

  const rename = (text: string) => setLayer(session, [id], `Text of ${item.layer.name}`, ['text'], text);
</script>

{#each shown as look (look.name)}
  {@const own = lookOf(look.name)}
  <div class="flex flex-col gap-1" role="group" aria-label="{look.label} look">
    <button
      class="grid h-[88px] w-[146px] place-items-center overflow-hidden rounded-lg border-2 bg-[var(--sheet)] {isOpen(look.name)
        ? 'border-[var(--gold)]'
        : 'border-[var(--line)]'}"
      aria-pressed={isOpen(look.name)}
      aria-label="{look.label} look"
      onclick={() => session.openLookOf(id, look.name)}
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
  {#each usual as look (look.name)}
    <div
      class="flex h-[88px] w-[130px] flex-col items-center justify-center gap-1 rounded-lg border-2 border-dashed border-[var(--line)] text-[var(--soft)]"
    >
      <button class="hover:text-[var(--ink)]" onclick={() => addLook(session, id, look.name, 'rest')}>add a <b>{look.name}</b> look</button>
      {#if look.name === 'press' && has('hover')}<button class="text-[11.5px] underline" onclick={() => addLook(session, id, 'press', 'hover')}
          >from Hover</button
        >{/if}
    </div>
  {/each}
  {#if missing.length}
    <div class="flex h-[88px] w-[130px] flex-col items-center justify-center gap-1.5 rounded-lg border-2 border-dashed border-[var(--line)]">
      <span class="soft">add a look</span>
      <ChipMenu
        name="Add a look"
        label="which, from which"
        tone="chip-ghost"
        filter
        options={missing.flatMap((look) =>
          shown.map((from) => ({ value: [look.name, from.name] as const, label: look.label, hint: `from ${from.label}` }))
        )}
        onpick={([look, from]) => addLook(session, id, look as LookName, from)}
      />
    </div>
  {/if}
  {#if item.layer.text !== undefined}
    <label class="flex w-[170px] flex-col gap-1 self-start"
      ><span class="soft">text {isOpen('rest') && session.reach === null ? '' : `in ${labelOfLook(session.look)}`}</span><input
        class="field"
        value={item.layer.text}
        aria-label="Text of the look"
        onkeydown={(event) => {
          event.stopPropagation();
          if (event.key === 'Enter') event.currentTarget.blur();
        }}
        onchange={(event) => rename(event.currentTarget.value)}
      /></label
    >
  {/if}
{/if}
