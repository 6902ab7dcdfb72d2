<script lang="ts">
  import type { ThreadChange } from '@zany/core';

  /** Threads as lines: what was struck out, what is written now. */
  interface Props {
    changes: readonly ThreadChange[];
    /** Takes over one thread as it was; none where nothing can be taken over. */
    ontake?: ((thread: string) => void) | undefined;
  }
  let { changes, ontake }: Props = $props();

  const words = { added: 'new', removed: 'gone', changed: 'changed', moved: 'stands elsewhere' } as const;
  const tone = { added: 'chip-teal', removed: 'chip-brick', changed: 'chip-gold', moved: '' } as const;
  const take = { added: 'remove it again', removed: 'bring it back', changed: 'as it was', moved: 'as it was' } as const;
</script>

<ul class="flex flex-col gap-2" aria-label="Threads that differ">
  {#each changes as { thread, kind, at, before, after, also } (thread)}
    <li class="stitch flex items-start gap-3 {kind === 'removed' ? '!border-l-[var(--brick)]' : ''}">
      <div class="min-w-0 flex-1">
        <p class="text-[12.5px]"><span class="chip {tone[kind]}">{words[kind]}</span> <b>{at}</b></p>
        {#if before !== null && before !== after}<p class="soft"><del>{before}</del></p>{/if}
        {#if after !== null}<p>{after}</p>{/if}
        {#each also as line (line)}<p class="soft text-[12.5px]">{line}</p>{/each}
      </div>
      {#if ontake}<button class="chip shrink-0" aria-label="{take[kind]}: {after ?? before}" onclick={() => ontake(thread)}>{take[kind]}</button>{/if}
    </li>
  {/each}
</ul>
