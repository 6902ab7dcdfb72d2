<script lang="ts">
  import { statesOf, type LookName, type Reach } from '@zany/core';
  import Popover from '$lib/shared/Popover.svelte';
  import type { EditorSession } from '$lib/client/session.svelte';
  import { flipped } from '$lib/shared/flipped';
  import { labelOfLook } from './look-poses';

  /** Which states of the scene, or which looks of a layer, the next edits are to touch. */
  let { session, of }: { session: EditorSession; of: 'states' | 'looks' } = $props();

  let open = $state(false);
  let chip: HTMLButtonElement | undefined = $state();

  const variants = $derived.by((): { id: string; name: string }[] => {
    if (of === 'states') return session.sceneId === null ? [] : statesOf(session.piece.scenes.get(session.sceneId)!);
    const owners = session.lookLayers.length ? session.lookLayers : session.selection;
    const names = owners.flatMap((id) => Object.keys(session.piece.layers.get(id)?.looks ?? {}));
    return ['rest', ...new Set(names)].map((id) => ({ id, name: labelOfLook(id as LookName) }));
  });
  const here = $derived(of === 'states' ? (session.stateId ?? '') : session.look);
  const isFirst = $derived(variants[0]?.id === here);
  const one = $derived(of === 'states' ? 'state' : 'look');
  const reach: Reach = $derived(session.reach ?? (isFirst ? { how: 'follow' } : { how: 'some', of: [here] }));
  const chosen = $derived(new Set(reach.how === 'all' ? variants.map((variant) => variant.id) : reach.how === 'some' ? reach.of : []));

  const words = $derived(
    reach.how === 'all'
      ? `every ${one}`
      : reach.how === 'follow'
        ? `this ${one} and those that follow it`
        : reach.of.length === 1 && reach.of[0] === here
          ? `this ${one} alone`
          : variants
              .filter((variant) => chosen.has(variant.id))
              .map((variant) => variant.name)
              .join(', ')
  );

  function choose(next: Reach) {
    if (of === 'looks' && session.lookLayers.length === 0) session.lookLayers = session.selection;
    session.reach = next;
  }

  function toggle(id: string) {
    const next = flipped(chosen, id);
    if (next.size) choose({ how: 'some', of: [...next] });
  }
</script>

<span class="flex min-w-0 items-center gap-1">
  <span class="soft whitespace-nowrap">edits reach</span>
  <button
    bind:this={chip}
    class="chip chip-ghost min-w-0 truncate"
    aria-expanded={open}
    onclick={() => (open = !open)}
    aria-label="Edits reach: {words}">{words}</button
  >
</span>
{#if open && chip}
  <Popover anchor={chip} label="What edits reach" onclose={() => (open = false)} width={250}>
    <div class="flex flex-col gap-0.5">
      {#if isFirst}<button class="menu-row" aria-pressed={reach.how === 'follow'} onclick={() => choose({ how: 'follow' })}
          >this {one} and those that follow it</button
        >{/if}
      <button class="menu-row" onclick={() => choose({ how: 'some', of: [here] })}>this {one} alone</button>
      <button class="menu-row" aria-pressed={reach.how === 'all'} onclick={() => choose({ how: 'all' })}>every {one}</button>
      <div class="mt-1 border-t border-dashed border-[var(--line)] pt-1" role="group" aria-label="Chosen {one}s">
        {#each variants as variant (variant.id)}
          <label class="menu-row"
            ><input type="checkbox" class="checkbox checkbox-xs" checked={chosen.has(variant.id)} onchange={() => toggle(variant.id)} /><span
              class="truncate">{variant.name}</span
            ></label
          >
        {/each}
      </div>
    </div>
  </Popover>
{/if}
