<script lang="ts">
  import type { BringingIn } from './bringing-in.svelte';

  /** Packages that are on their way in, with how far they have come. */
  let { bringing }: { bringing: BringingIn } = $props();
</script>

{#if bringing.all.length}
  <ul class="flex flex-col gap-2" aria-label="Coming in">
    {#each bringing.all as errand (errand.id)}
      {@const file = bringing.fileOf(errand)}
      <li class="flex items-center gap-3 border-t border-dashed border-[var(--gold)] pt-2">
        <b class="min-w-0 break-words">{file}</b>
        <span class="soft tabular-nums">{errand.said ?? (errand.state === 'waiting' ? 'waits for its turn' : 'is read')}</span>
        <button class="chip" aria-label="Stop bringing in {file}" onclick={() => bringing.stop(errand)}>Stop</button>
      </li>
    {/each}
  </ul>
{/if}
