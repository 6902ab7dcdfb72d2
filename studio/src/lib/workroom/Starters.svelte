<script lang="ts">
  import { ask } from '$lib/client/api';
  import Thumb from '$lib/shared/Thumb.svelte';
  import type { StarterCard } from '$lib/shared/types';
  import { drawnCover } from './cover';

  /** Pieces to take apart: each opens as a copy of one's own. */
  let { ontake }: { ontake: (id: string) => Promise<void> } = $props();

  let starters = $state.raw<readonly StarterCard[]>([]);
  let problem = $state('');
  let taking: string | null = $state(null);

  $effect(() => {
    void ask<{ starters: StarterCard[] }>('GET', '/api/starters').then((answer) => {
      if (answer.ok) starters = answer.value.starters;
      else problem = answer.error.sentence;
    });
  });

  const shown = $derived(starters.map((card) => ({ card, ...drawnCover(card.cover) })));

  async function take(id: string) {
    if (taking) return;
    taking = id;
    await ontake(id);
    taking = null;
  }
</script>

{#if problem}<p class="soft">{problem}</p>{/if}
<div class="grid grid-cols-4 gap-4 max-lg:grid-cols-2">
  {#each shown as { card, program, scene } (card.id)}
    <button
      class="group flex flex-col gap-2 text-left disabled:opacity-60"
      disabled={taking !== null}
      onclick={() => take(card.id)}
      title="Opens a copy of your own"
    >
      <span
        class="linen-ground grid h-[150px] w-full place-items-center overflow-hidden rounded-lg border border-[var(--line)] group-hover:border-[var(--gold)]"
      >
        {#if scene}<span class="block rounded shadow-md"
            ><Thumb {scene} {program} assetUrl={(asset) => `/api/starters/${card.id}/assets/${asset}`} width={150} height={128} radius={4} /></span
          >{/if}
      </span>
      <span
        ><strong class="block text-[14px]">{card.name}</strong><span class="soft">{taking === card.id ? 'making your copy…' : card.holds}</span></span
      >
    </button>
  {/each}
</div>
