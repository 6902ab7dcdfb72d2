<script lang="ts">
  import { count, exportName } from '@zany/core';
  import { useSession } from '$lib/shared/desk.svelte';
  import { downloadFrom, sizeWords } from '$lib/shared/download';
  import { isUnderWay, type Errand } from '$lib/shared/errands';
  import { momentOf } from '$lib/shared/moments';
  import { useErrands } from './errands.svelte';

  /** What the server made of the piece for whoever looks, to be taken again, or after all. */
  const errands = useErrands();
  const session = useSession();
  const ended = $derived(errands.all.filter((one) => one.wish.kind === 'export' && !isUnderWay(one)));

  function words({ state, problem, file, begun, revision }: Errand): string {
    if (problem) return problem;
    if (state === 'stopped' || !file) return 'It was stopped.';
    const since = session.savedRevision - revision;
    return `${sizeWords(file.size)}, ${momentOf(begun)}${since > 0 ? `, ${count(since, 'edit')} ago` : ''}`;
  }
  const nameOf = ({ file, wish }: Errand) => file?.name ?? (wish.kind === 'export' ? exportName(session.piece.head.name, wish.to) : '');
</script>

{#if ended.length}
  <section class="mt-3 flex w-[280px] flex-col" aria-label="Made lately">
    <h3 class="text-[17px]">Made lately</h3>
    <p class="soft mb-2">Kept for a day, for you alone.</p>
    {#each ended as one (one.id)}
      <div class="flex flex-col gap-1 border-t border-dashed border-[var(--gold)] py-2">
        <b class="break-words">{nameOf(one)}</b>
        <span class="soft tabular-nums">{words(one)}</span>
        <span class="flex gap-2">
          {#if one.file}{@const { name } = one.file}<button
              class="chip"
              aria-label="Take {name} again"
              onclick={() => downloadFrom(errands.fileOf(one), name)}>Take it again</button
            >{/if}
          <button class="chip" aria-label="Forget {nameOf(one)}" onclick={() => errands.stop(one)}>Forget it</button>
        </span>
      </div>
    {/each}
  </section>
{/if}
