<script lang="ts">
  import { framesOf, likelyFrames, statesOf, targetsOf, threadsOf, type Item, type Thread } from '@zany/core';
  import { behind, later } from '$lib/shared/later.svelte';
  import Thumb from '$lib/shared/Thumb.svelte';
  import type { EditorSession } from '$lib/client/session.svelte';
  import { bringInto, leadTo, playFrom } from './acts';
  import Landing from './Landing.svelte';

  let { session, picker = $bindable() }: { session: EditorSession; picker?: HTMLInputElement | undefined } = $props();

  let typed = $state('');
  let most = $state(8);
  /** Follows what is opened and selected once that is painted. */
  const of = behind(() => ({ scene: session.sceneId, selection: session.selection }));
  const whole = later(() => of.now.scene);
  $effect(() => {
    void session.sceneId;
    void session.selection;
    most = 8;
  });
  const scene = $derived(of.now.scene === session.sceneId ? session.scene : (session.program.scenes.get(of.now.scene ?? '') ?? null));
  const selected = $derived(of.now.selection.flatMap((id) => scene?.byId.get(id) ?? []));
  const one = $derived(selected.length === 1 ? selected[0]! : null);

  interface Led {
    readonly thread: Thread;
    readonly item: Item | null;
  }
  const landings = $derived.by((): Led[] => {
    if (!scene) return [];
    if (selected.length) return selected.flatMap((item) => item.threads.map((thread) => ({ thread, item })));
    return [
      ...scene.items.flatMap((item) => item.threads.map((thread) => ({ thread, item }))),
      ...scene.threads.map((thread) => ({ thread, item: null })),
    ];
  });

  const choices = $derived(
    likelyFrames(session.piece, one?.layer ?? null, of.now.scene, framesOf(session.piece)).filter((frame) =>
      frame.name.toLowerCase().includes(typed.trim().toLowerCase())
    )
  );
  const threads = $derived(selected.flatMap((item) => threadsOf(session.piece, item.layer.id)));
  const led = $derived(new Set(threads.flatMap((thread) => targetsOf(thread))));
  const canPick = $derived(session.selection.length > 0 && session.canEdit);

  /** States of the scene, and of placements in it with their names in front. */
  const states = $derived.by(() => {
    if (!scene) return [];
    const own = statesOf(scene.scene).map((state) => ({ of: '', id: state.id, name: state.name }));
    const inside = scene.items.flatMap(({ layer }) =>
      statesOf(session.piece.scenes.get(layer.part ?? '') ?? scene.scene)
        .filter(() => layer.part !== undefined)
        .map((state) => ({ of: layer.id, id: state.id, name: `${layer.name}: ${state.name}` }))
    );
    return [...own, ...inside].filter((state) => state.name.toLowerCase().includes(typed.trim().toLowerCase())).slice(0, 24);
  });

  /** Labels of the scene, and of parts placed in it, with the moment that each is. */
  const labels = $derived.by(() => {
    if (!scene) return [];
    const of = (part: string, layer: string, name: string) =>
      Object.entries(session.piece.scenes.get(part)?.timeline?.labels ?? {})
        .sort(([, a], [, b]) => a.time - b.time)
        .map(([id, label]) => ({ of: layer, part, id, time: label.time, name: name ? `${name}: ${label.name}` : label.name }));
    const inside = scene.items.flatMap(({ layer }) => (layer.part === undefined ? [] : of(layer.part, layer.id, layer.name)));
    return [...of(scene.scene.id, '', ''), ...inside].filter((label) => label.name.toLowerCase().includes(typed.trim().toLowerCase())).slice(0, 24);
  });

  function pick(id: string) {
    leadTo(session, id);
    typed = '';
  }
</script>

<div class="flex flex-col gap-3">
  {#if one}<p class="soft -mt-1">of {one.layer.name}</p>{/if}
  {#each whole.ready ? landings.slice(0, most) : landings.slice(0, 1) as { thread, item } (thread.id)}
    <Landing {session} scene={of.now.scene!} {thread} {item} named={!one} />
  {:else}
    {#if !canPick}<p class="soft">Select a layer to see where it leads, and to pick where it should lead.</p>{/if}
  {/each}
  {#if whole.ready && landings.length > most}<button class="chip chip-ghost self-start" onclick={() => (most += 12)}
      >{landings.length - most} more</button
    >{/if}

  {#if canPick}
    <div class="flex flex-col gap-2 border-t border-dashed border-[var(--line)] pt-2.5">
      <label class="flex items-center gap-2"
        ><span class="soft shrink-0"><kbd>G</kbd> lead to</span><input
          bind:this={picker}
          class="field h-[24px] min-w-0 flex-1"
          placeholder="type to filter"
          bind:value={typed}
          aria-label="Filter frames"
          onkeydown={(event) => {
            event.stopPropagation();
            if (event.key === 'Enter' && choices[0]) {
              pick(choices[0].id);
              event.currentTarget.blur();
            }
            if (event.key === 'Escape') {
              typed = '';
              event.currentTarget.blur();
            }
          }}
        /></label
      >
      {#if states.length > 1}
        <div class="flex flex-wrap gap-1" role="group" aria-label="Bring into a state">
          <span class="soft">or bring into</span>
          {#each states as state (state.of + state.id)}
            <button class="chip chip-teal" aria-label="Bring into {state.name}" onclick={() => bringInto(session, state.of || undefined, state.id)}
              >{state.name}</button
            >
          {/each}
        </div>
      {/if}
      {#if labels.length}
        <span class="soft">or play from</span>
        <div class="grid grid-cols-3 gap-2" role="group" aria-label="Play from a label">
          {#each labels as label (label.of + label.id)}
            <button
              class="flex min-w-0 flex-col items-center gap-0.5 rounded-md border-2 border-transparent p-1 hover:border-[var(--gold)]"
              aria-label="Play from {label.name}"
              onclick={() => playFrom(session, label.of || undefined, label.id)}
            >
              <span class="border border-[var(--line)]"
                ><Thumb
                  scene={session.program.scenes.get(label.part) ?? null}
                  frame={label.time}
                  assetUrl={session.assetUrl}
                  width={54}
                  height={44}
                /></span
              >
              <span class="w-full truncate text-center text-[12px]">{label.name}</span>
            </button>
          {/each}
        </div>
      {/if}
      <div class="grid grid-cols-3 gap-2">
        {#each choices.slice(0, whole.ready ? 24 : 9) as frame, i (frame.id)}
          <button
            class="flex min-w-0 flex-col items-center gap-0.5 rounded-md border-2 p-1 {led.has(frame.id)
              ? 'border-[var(--gold)]'
              : i === 0 && typed
                ? 'border-[var(--teal)]'
                : 'border-transparent'} hover:border-[var(--gold)]"
            aria-label="Lead to {frame.name}"
            onclick={() => pick(frame.id)}
          >
            <span class="border border-[var(--line)] {frame.draft ? 'opacity-60' : ''}"
              ><Thumb scene={session.program.scenes.get(frame.id) ?? null} assetUrl={session.assetUrl} width={54} height={64} /></span
            >
            <span class="w-full truncate text-center text-[12px]">{frame.name}</span>
          </button>
        {/each}
      </div>
    </div>
  {/if}
</div>
