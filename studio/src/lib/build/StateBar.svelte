<script lang="ts">
  import { statesOf } from '@zany/core';
  import type { EditorSession } from '$lib/client/session.svelte';
  import ReachChip from './ReachChip.svelte';

  /** Above the stage: the way back out of a part, and the states of the scene with what edits reach. */
  let { session }: { session: EditorSession } = $props();

  const states = $derived(session.sceneId === null ? [] : statesOf(session.piece.scenes.get(session.sceneId)!));
  const outer = $derived(session.piece.scenes.get(session.trail.at(-1) ?? ''));
</script>

{#if states.length || outer}
  <div class="flex shrink-0 flex-wrap items-center gap-1.5 border-b border-[var(--line)] bg-[var(--rim)] px-3 py-1" data-statebar>
    {#if outer}<button class="chip bg-[var(--sheet)]" onclick={() => session.leaveScene()} title="Back out (Esc)">‹ {outer.name}</button>{/if}
    {#if states.length}
      <span class="soft">State</span>
      {#each states as state (state.id)}
        <button
          class="chip {state.id === session.stateId ? '!bg-[var(--sheet)] font-semibold !border-[var(--gold)]' : 'chip-ghost'}"
          aria-pressed={state.id === session.stateId}
          onclick={() => session.openState(state.id)}>{state.name}</button
        >
      {/each}
      {#if session.canEdit}<ReachChip {session} of="states" />{/if}
    {/if}
  </div>
{/if}
