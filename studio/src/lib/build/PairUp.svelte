<script lang="ts">
  import { framesOf, newFrame, pairUp, wireTo, type Operation, type Pair } from '@zany/core';
  import ChipMenu from '$lib/shared/ChipMenu.svelte';
  import Thumb from '$lib/shared/Thumb.svelte';
  import { newId } from '$lib/client/ids';
  import type { EditorSession } from '$lib/client/session.svelte';

  let { session }: { session: EditorSession } = $props();

  const DRAFT = 'new draft';
  const frames = $derived(framesOf(session.piece));

  /** Frames chosen in the shelf, if more than one; else all that follow this one, then those before. */
  function candidates() {
    const here = frames.findIndex((frame) => frame.id === session.sceneId);
    const chosen = frames.filter((frame) => session.frameSelection.includes(frame.id) && frame.id !== session.sceneId);
    return chosen.length > 1 ? chosen : [...frames.slice(here + 1), ...frames.slice(0, here)];
  }

  const boxed = () =>
    session.selection.flatMap((id) => {
      const item = session.scene?.byId.get(id);
      return item ? [{ ...item.layer, pose: item.box }] : [];
    });

  let pairs: Pair[] = $state.raw(pairUp(boxed(), candidates()).map((pair) => ({ ...pair, frame: pair.frame ?? DRAFT })));

  const options = $derived([
    ...frames.map((frame) => ({ value: frame.id, label: frame.name })),
    { value: DRAFT, label: 'a new draft frame' },
    { value: '', label: 'leave it' },
  ]);

  const nameOf = (frame: string | null) =>
    frame === DRAFT ? 'a new draft frame' : frame ? (session.piece.scenes.get(frame)?.name ?? '?') : 'leave it';

  const change = (layer: string, frame: string) => (pairs = pairs.map((pair) => (pair.layer === layer ? { layer, frame: frame || null } : pair)));

  function apply() {
    const operations: Operation[] = [];
    for (const { layer, frame } of pairs) {
      if (frame === null) continue;
      let target = frame;
      if (frame === DRAFT) {
        target = newId();
        const name = session.piece.layers.get(layer)?.text ?? session.piece.layers.get(layer)?.name ?? 'Frame';
        operations.push(...newFrame(session.piece, target, { name: `${name} page`.slice(0, 110), draft: true }));
      }
      operations.push(...wireTo(session.piece, [layer], target, newId));
    }
    session.pairing = false;
    session.edit(`Pair up ${pairs.length} layers`, operations);
  }

  const close = () => (session.pairing = false);

  function focus(node: HTMLElement) {
    node.focus();
  }
</script>

<svelte:window onkeydowncapture={(event) => event.key === 'Escape' && close()} />
<div class="pop absolute right-4 top-14 z-30 flex max-h-[80%] w-[340px] flex-col gap-2 p-3" role="dialog" aria-label="Pair up">
  <h3 class="text-[15px]">Pair up {pairs.length} layers</h3>
  <p class="soft">By name where one fits, else by place on the page and frame order. Change what is wrong, then apply: it is one undo.</p>
  <div class="scroll flex min-h-0 flex-col gap-1.5">
    {#each pairs as pair (pair.layer)}
      <div
        class="flex items-center gap-2"
        role="group"
        aria-label={session.piece.layers.get(pair.layer)?.name}
        onpointerenter={() => (session.lit = [pair.layer])}
        onpointerleave={() => (session.lit = [])}
      >
        <span class="w-28 truncate">{session.piece.layers.get(pair.layer)?.text || session.piece.layers.get(pair.layer)?.name}</span>
        <span class="font-bold text-[var(--gold)]">→</span>
        {#if pair.frame && pair.frame !== DRAFT}<span class="border border-[var(--line)]"
            ><Thumb scene={session.program.scenes.get(pair.frame) ?? null} assetUrl={session.assetUrl} width={22} height={30} radius={2} /></span
          >{/if}
        <ChipMenu
          name="Frame for {session.piece.layers.get(pair.layer)?.name}"
          label={nameOf(pair.frame)}
          tone={pair.frame ? 'chip-gold' : 'chip-ghost'}
          {options}
          filter
          onpick={(frame) => change(pair.layer, frame)}
        />
      </div>
    {/each}
  </div>
  <div class="flex gap-2">
    <button class="act act-go" onclick={apply} use:focus>Apply</button><button class="act act-plain" onclick={close}>Not now</button>
  </div>
</div>
