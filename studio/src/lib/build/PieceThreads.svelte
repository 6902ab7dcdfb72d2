<script lang="ts">
  import { addThreads, keyWords, parseLines, scopeOf } from '@zany/core';
  import { newId } from '$lib/client/ids';
  import type { EditorSession } from '$lib/client/session.svelte';
  import LineInput from './LineInput.svelte';
  import ThreadRow from './ThreadRow.svelte';

  let { session, fired }: { session: EditorSession; fired: ReadonlySet<string> } = $props();

  const threads = $derived(session.program.threads);
  const used = $derived(new Set(threads.flatMap((thread) => (thread.cue.type === 'key' ? [thread.cue.key] : []))));

  /** The keys that most people try first, as thread lines. */
  const pageKeys = [
    ['ArrowRight', 'next · push left 250 ms'],
    ['ArrowLeft', 'previous · push right 250 ms'],
    ['Home', 'first'],
    ['End', 'last'],
  ] as const;
  const offered = $derived(pageKeys.filter(([key]) => !used.has(key)));

  function addPageKeys() {
    const lines = parseLines(offered.map(([key, where]) => `key ${key} → go to ${where}`).join('\n'), scopeOf(session.piece));
    if (lines.ok) session.edit('Add page keys', addThreads(session.piece, 'piece', session.piece.head.id, lines.value, newId));
  }
</script>

<div class="px-3.5 py-2" role="group" aria-label="Threads of the whole piece">
  <div class="flex items-center gap-2">
    <span class="text-[var(--gold)]">∞</span><span class="font-semibold">On every frame</span><span class="soft ml-auto text-[12px]"
      >keys that work anywhere</span
    >
  </div>
  <div class="ml-[22px]">
    {#each threads as thread (thread.id)}<ThreadRow {session} {thread} fired={fired.has(thread.id)} />{/each}
    {#if session.selection.length === 0 && session.canEdit && !session.trying}
      {#if offered.length && session.program.frames.length > 1}
        <button class="chip chip-ghost my-1" onclick={addPageKeys}>add page keys {offered.map(([key]) => keyWords(key)).join(' ')}</button>
      {/if}
      <div class="my-1.5"><LineInput {session} on="piece" owner={session.piece.head.id} /></div>
    {/if}
  </div>
</div>
