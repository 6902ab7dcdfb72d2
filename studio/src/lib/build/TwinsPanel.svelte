<script lang="ts">
  import { carryToTwins, count, framesOf, leftIn, listWords, twinKinds, twinsOf, unlikeIn, type Shared, type Twin } from '@zany/core';
  import { newId } from '$lib/client/ids';
  import type { EditorSession } from '$lib/client/session.svelte';
  import { flipped } from '$lib/shared/flipped';
  import { takeFocus } from '$lib/shared/focus';

  /** What is selected, as it stands in other frames under the same name: what it is here it becomes there, as far as is chosen. */
  let { session }: { session: EditorSession } = $props();

  const kinds = Object.keys(twinKinds) as Shared[];

  const twins = $derived(twinsOf(session.plain.piece, session.selection));
  const called = $derived([...new Set(session.selection.flatMap((id) => session.plain.piece.layers.get(id)?.name ?? []))]);
  const names = $derived(called.length > 3 ? count(called.length, 'layer') : listWords(called));
  /** Frames that were left out, or of which nothing is asked: with some chosen in the shelf those alone are asked for. */
  // svelte-ignore state_referenced_locally
  const only = session.frameSelection.length > 1 ? new Set(session.frameSelection) : null;
  let left: ReadonlySet<string> = $state.raw(
    // svelte-ignore state_referenced_locally
    new Set(only ? framesOf(session.plain.piece).flatMap(({ id }) => (only.has(id) ? [] : id)) : [])
  );
  let unasked: ReadonlySet<Shared> = $state.raw(new Set<Shared>(['words', 'threads', 'bindings']));

  const unlike = $derived(Object.fromEntries(kinds.map((kind) => [kind, unlikeIn(session.plain, twins, kind)])) as Record<Shared, Twin[]>);
  /** What cannot be carried, as it speaks of this frame alone. */
  const stays = $derived(Object.fromEntries(kinds.map((kind) => [kind, leftIn(session.plain, twins, kind)])) as Record<Shared, Twin[]>);
  const staying = $derived(
    kinds
      .filter((kind) => stays[kind].length)
      .map((kind) => {
        const of = new Set(stays[kind].flatMap(({ source }) => session.plain.piece.layers.get(source)?.name ?? []));
        return `${twinKinds[kind].label} of ${of.size > 3 ? count(of.size, 'layer') : listWords([...of])}`;
      })
  );
  const there = $derived(kinds.filter((kind) => unlike[kind].length > 0));
  const asked = $derived(there.filter((kind) => !unasked.has(kind)));
  const isIn = $derived(({ frame }: Twin) => !left.has(frame));
  const frames = $derived(framesOf(session.plain.piece).filter(({ id }) => twins.some(({ frame }) => frame === id)));
  const changed = $derived(new Set(asked.flatMap((kind) => unlike[kind].filter(isIn).map(({ id }) => id))));

  /** What is otherwise in a frame, of what is asked for. */
  const saidOf = (frame: string) => {
    const isOf = (list: readonly Twin[]) => list.some((twin) => twin.frame === frame);
    const labels = (some: readonly Shared[]) => listWords(some.map((kind) => twinKinds[kind].label));
    const found = asked.filter((kind) => isOf(unlike[kind]));
    if (found.length) return labels(found);
    const others = kinds.filter((kind) => isOf(stays[kind]) || isOf(unlike[kind]));
    return others.length ? `as here but for ${labels(others)}` : 'as here already';
  };

  const close = () => (session.panel = null);

  function apply() {
    const made = carryToTwins(session.plain, twins.filter(isIn), asked, newId);
    if (session.edit(`Make ${names} the same in other frames`, made, 'plain')) close();
  }
</script>

<div class="flex min-h-0 flex-1 flex-col gap-2.5" role="dialog" aria-label="The same in other frames">
  <h3 class="text-[15px]">The same in other frames</h3>
  {#if twins.length === 0}
    <p class="soft">
      {session.selection.length ? `No other frame has a layer of this name and kind: ${names}.` : 'Select layers that other frames have, too.'}
    </p>
    <button class="act act-plain self-start" onclick={close} use:takeFocus>Close</button>
  {:else}
    <p class="soft">
      {names}: {count(twins.length, 'layer')} called the same in {count(frames.length, 'other frame')}. What it is here it becomes there.
    </p>
    {#if there.length}
      <div class="flex flex-wrap gap-1" role="group" aria-label="What is carried over">
        {#each there as kind (kind)}
          <button
            class="chip {unasked.has(kind) ? '' : 'chip-on'}"
            aria-pressed={!unasked.has(kind)}
            title="Otherwise in {count(unlike[kind].length, 'layer')}"
            onclick={() => (unasked = flipped(unasked, kind))}>{twinKinds[kind].label}</button
          >
        {/each}
      </div>
    {/if}
    {#if staying.length}<p class="soft text-[12px]">Stays, as it speaks of what only this frame has: {listWords(staying)}.</p>{/if}
    <ul class="scroll flex min-h-0 flex-col gap-1" aria-label="Frames">
      {#each frames as frame (frame.id)}
        <li>
          <label class="flex items-baseline gap-2"
            ><input
              type="checkbox"
              class="checkbox checkbox-xs translate-y-0.5"
              checked={!left.has(frame.id)}
              onchange={() => (left = flipped(left, frame.id))}
            /><span class="flex min-w-0 flex-col"
              ><span class="truncate">{frame.name}</span><span class="soft text-[12px]">{saidOf(frame.id)}</span></span
            ></label
          >
        </li>
      {/each}
    </ul>
    <div class="flex gap-2">
      <button class="act act-go" disabled={changed.size === 0} onclick={apply} use:takeFocus>
        {changed.size ? `Change ${count(changed.size, 'layer')}` : staying.length || there.length ? 'Nothing to change' : 'All are as here'}
      </button>
      <button class="act act-plain" onclick={close}>Not now</button>
    </div>
  {/if}
</div>
