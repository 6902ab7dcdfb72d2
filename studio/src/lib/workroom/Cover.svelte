<script lang="ts">
  import { count } from '@zany/core';
  import { roleMay } from '$lib/shared/rights';
  import Thumb from '$lib/shared/Thumb.svelte';
  import type { PieceCard } from '$lib/shared/types';
  import { drawnCover } from './cover';

  interface Props {
    card: PieceCard;
    onrename: (name: string) => void;
    onduplicate: () => void;
    ondelete: () => void;
  }
  let { card, onrename, onduplicate, ondelete }: Props = $props();

  const { program, scene } = $derived(drawnCover(card.cover));
  let renaming = $state(false);

  function rename(event: Event) {
    const name = (event.currentTarget as HTMLInputElement).value.trim();
    renaming = false;
    if (name && name !== card.name) onrename(name);
  }

  const changed = $derived(new Date(card.updated).toLocaleDateString('en-GB', { day: 'numeric', month: 'short' }));
</script>

<article class="group flex w-[232px] flex-col gap-2" aria-label={card.name}>
  <a
    href="/p/{card.id}/build"
    class="linen-ground relative grid h-[232px] place-items-center overflow-hidden rounded-xl border border-[var(--line)] transition-shadow hover:shadow-lg"
    aria-label="Open {card.name}"
  >
    {#if scene}
      <span class="block rounded-md shadow-md"
        ><Thumb {scene} {program} assetUrl={(asset) => `/api/pieces/${card.id}/assets/${asset}`} width={200} height={204} radius={6} /></span
      >
    {:else}
      <span class="soft px-8 text-center">{card.problem ? 'no picture of it' : card.frames === null ? 'being looked through…' : 'no frame yet'}</span>
    {/if}
    {#if card.problem}
      <span class="chip chip-brick absolute right-2 top-2" title={card.problem}>cannot be shown</span>
    {:else if card.looseEnds}
      <span class="chip chip-brick absolute right-2 top-2">{count(card.looseEnds, 'loose end')}</span>
    {:else if card.looseEnds === 0 && card.complete}
      <span class="chip chip-teal absolute right-2 top-2">no loose end</span>
    {:else if card.frames !== null}
      <span class="chip chip-part absolute right-2 top-2" title="There is more than could be walked for this list.">◐ not all walked</span>
    {/if}
  </a>
  <div class="flex min-h-[26px] items-center gap-1">
    {#if renaming}
      <!-- svelte-ignore a11y_autofocus -->
      <input
        class="field h-7 flex-1"
        value={card.name}
        maxlength="120"
        autofocus
        aria-label="Name of the piece"
        onfocus={(event) => event.currentTarget.select()}
        onblur={rename}
        onkeydown={(event) => {
          if (event.key === 'Enter') event.currentTarget.blur();
          if (event.key === 'Escape') {
            event.currentTarget.value = card.name;
            event.currentTarget.blur();
          }
        }}
      />
    {:else}
      <h2 class="flex-1 truncate text-[15px]">{card.name}</h2>
    {/if}
  </div>
  <p class="soft -mt-2">
    {card.problem ?? (card.frames === null ? '' : `${count(card.frames, 'frame')} · `)}{card.problem ? ' · ' : ''}changed {changed}{card.role ===
    'owner'
      ? ''
      : ` · you are its ${card.role}`}
  </p>
  <div class="flex gap-1 opacity-0 transition-opacity focus-within:opacity-100 group-hover:opacity-100">
    {#if roleMay(card.role, 'edit')}<button class="chip" onclick={() => (renaming = true)}>rename</button>{/if}
    <button class="chip" onclick={onduplicate}>duplicate</button>
    {#if roleMay(card.role, 'delete')}<button class="chip" onclick={ondelete}>delete</button>{/if}
  </div>
</article>
