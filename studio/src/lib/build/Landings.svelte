<script lang="ts">
  import { framesOf, likelyFrames, scopeFor, stepWords, threadsOf, transitionWords, type Item, type Thread } from '@zany/core';
  import Thumb from '$lib/shared/Thumb.svelte';
  import type { EditorSession } from '$lib/client/session.svelte';
  import { leadTo } from './acts';
  import Scrub from './Scrub.svelte';

  let { session, picker = $bindable() }: { session: EditorSession; picker?: HTMLInputElement | undefined } = $props();

  let typed = $state('');
  const scene = $derived(session.scene);
  const selected = $derived(session.selection.flatMap((id) => scene?.byId.get(id) ?? []));
  const one = $derived(selected.length === 1 ? selected[0]! : null);

  interface Landing {
    readonly thread: Thread;
    readonly item: Item | null;
  }
  const landings = $derived.by((): Landing[] => {
    if (!scene) return [];
    if (selected.length) return selected.flatMap((item) => item.threads.map((thread) => ({ thread, item })));
    return [
      ...scene.items.flatMap((item) => item.threads.map((thread) => ({ thread, item }))),
      ...scene.threads.map((thread) => ({ thread, item: null })),
    ];
  });

  /** The frame that a thread leads to from here, when that is one frame. */
  function landingOf(thread: Thread) {
    const step = thread.branches.flatMap((branch) => branch.steps).find((each) => each.do === 'go');
    if (!step || !scene) return null;
    const at = session.program.frameAt.get(scene.scene.id) ?? 0;
    const frames = session.program.frames;
    const { target } = step;
    const id =
      target.to === 'frame'
        ? target.frame
        : {
            next: frames[at + 1],
            previous: frames[at - 1],
            first: frames[0],
            last: frames.at(-1),
            start: session.piece.head.start[0],
            back: undefined,
          }[target.to];
    return { step, scene: id ? (session.program.scenes.get(id) ?? null) : null };
  }

  const choices = $derived(
    likelyFrames(session.piece, one?.layer ?? null, session.sceneId, framesOf(session.piece)).filter((frame) =>
      frame.name.toLowerCase().includes(typed.trim().toLowerCase())
    )
  );
  const threads = $derived(selected.flatMap((item) => threadsOf(session.piece, item.layer.id)));
  const led = $derived(new Set(threads.flatMap((thread) => landingOf(thread)?.scene?.scene.id ?? [])));
  const canPick = $derived(selected.length > 0 && session.canEdit);

  function pick(id: string) {
    leadTo(session, id);
    typed = '';
  }

  function light(thread: Thread | null, item: Item | null) {
    session.litThread = thread?.id ?? null;
    session.lit = item ? [item.layer.id] : [];
  }
</script>

<div class="flex flex-col gap-3">
  {#if one}<p class="soft -mt-1">of {one.layer.name}</p>{/if}
  {#each landings.slice(0, 30) as { thread, item } (thread.id)}
    {@const landing = landingOf(thread)}
    <div
      class="flex flex-col gap-1 rounded-md {session.litThread === thread.id ? 'bg-[var(--gold-wash)]' : ''}"
      role="group"
      aria-label="Landing"
      onpointerenter={() => light(thread, item)}
      onpointerleave={() => light(null, null)}
    >
      {#if !one && item}<span class="truncate font-semibold">{item.layer.name}</span>{/if}
      {#if landing?.scene && scene}
        <Scrub from={scene} to={landing.scene} transition={landing.step.transition} assetUrl={session.assetUrl} source={item?.layer.id} />
        <button
          class="soft text-left hover:underline"
          title="Open {landing.scene.scene.name}"
          onclick={() => session.openScene(landing.scene!.scene.id)}
          >{(session.program.frameAt.get(landing.scene.scene.id) ?? 0) + 1}
          {landing.scene.scene.name}{landing.scene.scene.draft ? ' · draft' : ''} · {transitionWords(landing.step.transition)}</button
        >
      {:else if landing}
        <p
          class="rounded-md border border-dashed px-2 py-1.5 {landing.step.target.to === 'frame'
            ? 'border-[var(--brick)] text-[var(--brick-text)]'
            : 'border-[var(--line)] text-[var(--soft)]'}"
        >
          {landing.step.target.to === 'frame'
            ? landing.step.target.frame === null
              ? 'Not chosen yet: pick a frame below.'
              : 'The frame it led to is gone: pick another below.'
            : landing.step.target.to === 'back'
              ? 'Back to the frame before'
              : `No ${landing.step.target.to} frame from here`}
        </p>
      {:else}
        {#each thread.branches.flatMap((branch) => branch.steps) as step, i (i)}<p class="soft">
            {stepWords(step, scopeFor(session.piece, thread))}
          </p>{:else}<p class="text-[var(--brick-text)]">No step yet.</p>{/each}
      {/if}
    </div>
  {:else}
    {#if !canPick}<p class="soft">Select a layer to see where it leads, and to pick where it should lead.</p>{/if}
  {/each}

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
      <div class="grid grid-cols-3 gap-2">
        {#each choices.slice(0, 60) as frame, i (frame.id)}
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
            <span class="w-full truncate text-center text-[11px]">{frame.name}</span>
          </button>
        {/each}
      </div>
    </div>
  {/if}
</div>
