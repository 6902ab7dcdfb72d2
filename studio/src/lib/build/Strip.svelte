<script lang="ts">
  import type { EditorSession } from '$lib/client/session.svelte';
  import LooksStrip from './LooksStrip.svelte';
  import ReachChip from './ReachChip.svelte';
  import StatesStrip from './StatesStrip.svelte';

  let { session, folded = $bindable() }: { session: EditorSession; folded: boolean } = $props();

  type Tab = 'looks' | 'states';
  let wanted: Tab | null = $state(null);

  const item = $derived(session.selection.length === 1 ? (session.scene?.byId.get(session.selection[0]!) ?? null) : null);
  /** A look that is open stays in the strip while something inside its layer is selected. */
  const subject = $derived(session.lookLayer === null ? item : (session.scene?.byId.get(session.lookLayer) ?? item));
  const tab = $derived<Tab>(wanted ?? (subject ? 'looks' : 'states'));
  const tabs: readonly { id: Tab; label: string }[] = [
    { id: 'looks', label: 'Looks' },
    { id: 'states', label: 'States' },
  ];

  // What is selected decides again once it changes.
  $effect(() => {
    void session.selection;
    void session.sceneId;
    if (tab === 'looks') wanted = null;
  });
</script>

<section class="flex flex-col border-t border-[var(--line)] bg-[var(--rim)]" aria-label="Strip">
  <header class="flex h-[34px] shrink-0 items-center gap-3 px-3.5">
    <div class="flex gap-3" role="tablist" aria-label="What the strip shows">
      {#each tabs as { id, label } (id)}
        <button role="tab" aria-selected={tab === id} class="tab-word" onclick={() => (wanted = id)}>{label}</button>
      {/each}
    </div>
    {#if !folded}
      <span class="soft min-w-0 truncate">of {tab === 'looks' ? (subject?.layer.name ?? 'no layer') : (session.scene?.scene.name ?? 'no scene')}</span
      >
      <span class="flex-1"></span>
      {#if tab === 'looks' && subject && session.canEdit}<span class="max-w-[70%] shrink-0"><ReachChip {session} of="looks" /></span>{/if}
    {:else}<span class="flex-1"></span>{/if}
    <button
      class="act act-plain"
      aria-expanded={!folded}
      aria-label={folded ? 'Unfold the strip' : 'Fold the strip away'}
      onclick={() => (folded = !folded)}>{folded ? '▴' : '▾'}</button
    >
  </header>
  {#if !folded}
    <div class="scroll flex h-[126px] gap-3 overflow-x-auto px-3.5 pb-2" role="tabpanel" aria-label={tab === 'looks' ? 'Looks' : 'States'}>
      {#if tab === 'states' && session.scene}
        <StatesStrip {session} />
      {:else if subject}
        <LooksStrip {session} item={subject} />
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
