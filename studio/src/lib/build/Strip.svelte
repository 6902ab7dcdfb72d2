<script lang="ts">
  import { untrack } from 'svelte';
  import { followPointer } from '$lib/shared/follow';
  import type { EditorSession } from '$lib/client/session.svelte';
  import { keyLabel } from '$lib/shared/commands';
  import { sideKinds } from './sides.svelte';
  import LooksStrip from './LooksStrip.svelte';
  import ReachChip from './ReachChip.svelte';
  import TimeStrip from '$lib/time/TimeStrip.svelte';
  import StatesStrip from './StatesStrip.svelte';
  import TimeReachChip from './TimeReachChip.svelte';

  let { session, folded, onfold }: { session: EditorSession; folded: boolean; onfold: (folded: boolean) => void } = $props();

  type Tab = NonNullable<EditorSession['strip']>;

  /** Looks that are open stay in the strip while something inside their layers is selected. */
  const subjects = $derived((session.lookLayers.length ? session.lookLayers : session.selection).flatMap((id) => session.scene?.byId.get(id) ?? []));
  const tab = $derived<Tab>(session.strip ?? (subjects.length ? 'looks' : 'states'));
  const tabs: readonly { id: Tab; label: string }[] = [
    { id: 'looks', label: 'Looks' },
    { id: 'states', label: 'States' },
    { id: 'time', label: 'Time' },
  ];

  /** How high the seam is, CSS px; it can be pulled up to half of the window. */
  let high = $state(Number(localStorage.getItem('zany-seam')) || 230);

  function pull(event: PointerEvent) {
    const begun = high;
    followPointer(event, {
      move: (next) => (high = Math.max(126, Math.min(innerHeight / 2, begun + event.clientY - next.clientY))),
      done: () => localStorage.setItem('zany-seam', String(Math.round(high))),
    });
  }

  $effect(() => {
    if (session.timeAsked) onfold(false);
  });

  // What is selected decides again once it changes.
  $effect(() => {
    void session.selection;
    void session.sceneId;
    if (untrack(() => tab) === 'looks') session.strip = null;
  });
</script>

<section class="relative flex flex-col border-t border-[var(--line)] bg-[var(--rim)]" aria-label="Strip">
  {#if tab === 'time' && !folded}
    <!-- svelte-ignore a11y_no_static_element_interactions -->
    <span class="absolute inset-x-0 -top-1 z-10 h-2 cursor-ns-resize" title="Pull it higher" data-pull onpointerdown={pull}></span>
  {/if}
  <header class="flex {folded ? 'h-[22px]' : 'h-[30px]'} shrink-0 items-center gap-3 px-3.5">
    <div class="flex gap-3" role="tablist" aria-label="What the strip shows">
      {#each tabs as { id, label } (id)}
        <button role="tab" aria-selected={tab === id} class="tab-word" onclick={() => (session.strip = id)}>{label}</button>
      {/each}
    </div>
    {#if !folded}
      <span class="soft min-w-[40px] shrink-[3] truncate"
        >of {tab === 'looks'
          ? subjects.length > 1
            ? `${subjects.length} layers`
            : (subjects[0]?.layer.name ?? 'no layer')
          : (session.scene?.scene.name ?? 'no scene')}</span
      >
      <span class="flex-1"></span>
      {#if tab === 'time' && session.timeline && session.canEdit}<span class="min-w-0 max-w-[70%]"><TimeReachChip {session} /></span>{/if}
      {#if tab === 'looks' && subjects.length > 0 && session.canEdit}<span class="min-w-0 max-w-[70%]"><ReachChip {session} of="looks" /></span>{/if}
    {:else}<span class="flex-1"></span>{/if}
    <button
      class="act act-plain shrink-0"
      aria-expanded={!folded}
      aria-label={folded ? 'Unfold the strip' : 'Fold the strip away'}
      title="{folded ? 'Unfold' : 'Fold away'} ({keyLabel(sideKinds.strip.key)})"
      onclick={() => onfold(!folded)}>{folded ? '▴' : '▾'}</button
    >
  </header>
  {#if !folded}
    <div
      class="scroll flex gap-3 overflow-x-auto px-3.5 pb-2 {tab === 'time' ? 'overflow-hidden' : 'h-[100px]'}"
      style:height={tab === 'time' ? `${session.timeline ? high : 126}px` : undefined}
      role="tabpanel"
      aria-label={tabs.find((one) => one.id === tab)!.label}
    >
      {#if tab === 'time' && session.scene}
        <TimeStrip {session} />
      {:else if tab === 'states' && session.scene}
        <StatesStrip {session} />
      {:else if subjects.length}
        <LooksStrip {session} items={subjects} />
      {:else}
        <p class="soft self-center">Select layers to see how they look at rest, hovered and pressed, side by side.</p>
      {/if}
    </div>
  {/if}
</section>
