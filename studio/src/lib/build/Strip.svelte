<script lang="ts">
  import { stillLayer, type LookName } from '@zany/core';
  import { sceneView } from '$lib/shared/sceneView';
  import type { EditorSession } from '$lib/client/session.svelte';
  import { setLayer } from './acts';

  let { session, folded = $bindable() }: { session: EditorSession; folded: boolean } = $props();

  const item = $derived(session.selection.length === 1 ? (session.scene?.byId.get(session.selection[0]!) ?? null) : null);
  const canHaveLooks = $derived(item !== null && item.layer.type !== 'group');
  const looks: readonly ('rest' | LookName)[] = ['rest', 'hover', 'press', 'focus', 'selected', 'selectedHover', 'disabled'];
  const usual: readonly string[] = ['rest', 'hover', 'press'];
  const labels = {
    rest: 'Rest',
    hover: 'Hover',
    press: 'Press',
    focus: 'Focus',
    selected: 'Selected',
    selectedHover: 'Selected, hovered',
    disabled: 'Off',
  } as const;
  let hovered: string | null = $state(null);

  const has = (look: 'rest' | LookName) => look === 'rest' || item?.layer.looks?.[look] !== undefined;

  /** Nothing but the layer, in one of its looks. */
  function alone(look: 'rest' | LookName) {
    if (!item || !session.sceneId) return null;
    const id = item.layer.id;
    const isHovered = look === 'hover' || look === 'press' || look === 'selectedHover';
    return stillLayer(session.program, session.sceneId, id, {
      over: isHovered ? [id] : [],
      pressed: look === 'press',
      focus: look === 'focus' ? id : null,
      selected: look === 'selected' || look === 'selectedHover' ? [id] : [],
      disabled: look === 'disabled' ? [id] : [],
    });
  }
  const scale = $derived(item ? Math.min(1, 120 / item.box.width, 66 / item.box.height) : 1);

  /** A new look starts as a shade of what it is made from, so that something is seen at once. */
  function add(look: LookName, from: 'rest' | LookName) {
    if (!item) return;
    const source = from === 'rest' ? undefined : item.layer.looks?.[from];
    const fill = item.layer.style.fill;
    const own = fill
      ? { style: { ...source?.style, fill: shade(source?.style?.fill ?? fill, look === 'hover' ? 0.14 : -0.14) } }
      : { style: { ...source?.style, opacity: look === 'hover' ? 0.85 : 0.7 } };
    if (setLayer(session, [item.layer.id], `Add a ${look} look`, ['looks', look], { ...source, ...own })) session.look = look;
  }

  /** Lighter for a positive share, darker for a negative one. */
  function shade(color: string, by: number): string {
    const toward = by > 0 ? 255 : 0;
    const part = (at: number) => Math.round(parseInt(color.slice(at, at + 2), 16) + (toward - parseInt(color.slice(at, at + 2), 16)) * Math.abs(by));
    return `#${[1, 3, 5].map((at) => part(at).toString(16).padStart(2, '0')).join('')}${color.slice(7)}`;
  }

  function remove(look: LookName) {
    if (!item) return;
    const left = Object.keys(item.layer.looks ?? {}).filter((name) => name !== look);
    session.look = 'rest';
    setLayer(session, [item.layer.id], `Remove the ${look} look`, left.length ? ['looks', look] : ['looks'], undefined);
  }
</script>

<section class="flex flex-col border-t border-[var(--line)] bg-[var(--rim)]" aria-label="Looks">
  <header class="flex h-[34px] shrink-0 items-center gap-3 px-3.5">
    <h2 class="text-[14px]">Looks</h2>
    {#if item && !folded}<span class="soft truncate">of {item.layer.name}{canHaveLooks ? '' : ': a group takes the looks of what is in it'}</span
      >{/if}
    <span class="flex-1"></span>
    {#if !folded && canHaveLooks}<span class="soft">edits reach</span><span class="chip chip-ghost"
        >{session.look === 'rest' ? 'every look' : `the ${session.look} look`}</span
      >{/if}
    <button
      class="act act-plain"
      aria-expanded={!folded}
      aria-label={folded ? 'Unfold the strip' : 'Fold the strip away'}
      onclick={() => (folded = !folded)}>{folded ? '▴' : '▾'}</button
    >
  </header>
  {#if !folded}
    <div class="scroll flex h-[126px] gap-3 px-3.5 pb-2">
      {#if item && canHaveLooks}
        {#each looks as look (look)}
          {#if has(look)}
            <div class="flex flex-col gap-1">
              <button
                class="grid h-[88px] w-[146px] place-items-center overflow-hidden rounded-lg border-2 bg-[var(--sheet)] {session.look === look
                  ? 'border-[var(--gold)]'
                  : 'border-[var(--line)]'}"
                aria-pressed={session.look === look}
                aria-label="{labels[look]} look"
                onclick={() => (session.look = look)}
                onpointerenter={() => (hovered = look)}
                onpointerleave={() => (hovered = null)}
              >
                <span class="pointer-events-none block" style:width="{item.box.width * scale}px" style:height="{item.box.height * scale}px">
                  <span
                    class="block origin-top-left"
                    style:transform="scale({scale})"
                    use:sceneView={{ screen: alone(look), assetUrl: session.assetUrl }}
                  ></span>
                </span>
              </button>
              <span class="flex items-center gap-2 px-0.5"
                ><span class="font-semibold">{labels[look]}</span>{#if look !== 'rest' && session.canEdit}<button
                    class="soft ml-auto {hovered === look ? '' : 'opacity-60'}"
                    aria-label="Remove the {look} look"
                    onclick={() => remove(look)}>✕</button
                  >{/if}</span
              >
            </div>
          {:else if session.canEdit && usual.includes(look)}
            <div
              class="flex h-[88px] w-[146px] flex-col items-center justify-center gap-1 rounded-lg border-2 border-dashed border-[var(--line)] text-[var(--soft)]"
            >
              <button class="hover:text-[var(--ink)]" onclick={() => add(look as LookName, 'rest')}>add a <b>{look}</b> look</button>
              {#if look === 'press' && has('hover')}<button class="text-[11.5px] underline" onclick={() => add('press', 'hover')}>from Hover</button
                >{/if}
            </div>
          {/if}
        {/each}
      {:else}
        <p class="soft self-center">
          {session.selection.length > 1
            ? 'Looks are shown for one layer at a time.'
            : 'Select a layer to see how it looks at rest, hovered and pressed, side by side.'}
        </p>
      {/if}
    </div>
  {/if}
</section>
