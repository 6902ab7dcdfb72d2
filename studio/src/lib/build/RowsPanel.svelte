<script lang="ts">
  import { commonPart, count, fillFromRows, listWords } from '@zany/core';
  import Papa from 'papaparse';
  import { untrack } from 'svelte';
  import { newId } from '$lib/client/ids';
  import type { EditorSession } from '$lib/client/session.svelte';
  import { takeFocus } from '$lib/shared/focus';

  /** Rows of a table into the selected placements, seen on the stage before they are made so. */
  let { session }: { session: EditorSession } = $props();

  let written = $state('');
  let problem: string | null = $state(null);

  const close = () => (session.panel = null);

  /** Ids are made once for each place, so that what is previewed is what is made. */
  const ids: string[] = [];
  const makeIds = () => {
    let n = 0;
    return () => (ids[n++] ??= newId());
  };

  /** Commas, semicolons or tabs, as spreadsheets give them. */
  const rows = $derived(
    Papa.parse<string[]>(written.trim(), { skipEmptyLines: 'greedy' }).data.filter((row) => row.some((cell) => cell.trim() !== ''))
  );
  const chosen = $derived(session.selection.flatMap((id) => session.plain.piece.layers.get(id) ?? []));
  const fits = $derived(commonPart(chosen) !== null);
  const result = $derived(
    fits && session.sceneId !== null && rows.length ? fillFromRows(session.plain, session.sceneId, session.selection, rows, makeIds()) : null
  );
  const unused = $derived(result?.columns.filter(({ layer }) => layer === null).map(({ name }) => name.trim() || 'one without a name') ?? []);

  $effect(() => {
    const now = result?.operations ?? null;
    untrack(() => session.preview(now, 'plain'));
    return () => untrack(() => session.preview(null));
  });

  async function take(event: Event & { currentTarget: HTMLInputElement }) {
    const [file] = event.currentTarget.files ?? [];
    event.currentTarget.value = '';
    if (!file) return;
    problem = file.size > 2_000_000 ? `${file.name} is larger than 2 MB. Take the rows that are needed, and paste them.` : null;
    if (!problem) written = await file.text();
  }

  function fill() {
    if (!result || result.filled === 0) return;
    const { operations, filled } = result;
    close();
    session.edit(`Fill ${count(filled, 'placement')} from rows`, operations, 'plain');
  }
</script>

<div role="dialog" aria-label="Fill from rows">
  <form
    class="flex min-h-0 flex-col gap-2"
    onsubmit={(event) => {
      event.preventDefault();
      fill();
    }}
  >
    <div class="flex items-baseline gap-2">
      <h3 class="flex-1 text-[15px]">Fill from rows</h3>
      <button type="button" class="act act-plain" onclick={close} aria-label="Close" title="Close (Esc)">✕</button>
    </div>
    {#if !fits}
      <p class="soft">Select placements of one part: each gets a row. Of a single one as many are made as there are rows.</p>
    {:else}
      <textarea
        class="field h-[180px] w-full !p-2 font-mono text-[12px]"
        placeholder={'Time, To\n10:40, Skarra\n12:15, Torn'}
        aria-label="Rows"
        spellcheck="false"
        bind:value={written}
        use:takeFocus
        onkeydown={(event) => event.key !== 'Escape' && event.stopPropagation()}></textarea>
      <label class="chip relative cursor-pointer self-start"
        >from a file<input
          class="absolute inset-0 h-full w-full cursor-pointer opacity-0"
          type="file"
          accept=".csv,.tsv,.txt,text/csv,text/tab-separated-values,text/plain"
          aria-label="A file with rows"
          onchange={take}
        /></label
      >
      {#if problem}<p class="text-[var(--brick-text)]" role="alert">{problem}</p>{/if}
      {#if result}
        <p aria-live="polite">
          {count(result.filled, 'placement')}{result.made ? `, ${result.made} of them made for it` : ''}{result.left
            ? `; ${count(result.left, 'row')} left over: select more placements, or a single one`
            : ''}.
        </p>
        {#if unused.length}<p class="soft">Not used: {listWords(unused)}. No text of the part is called so.</p>{/if}
      {/if}
      <button class="act act-go self-start" disabled={!result || result.filled === 0}>{result?.filled ? `Fill ${result.filled}` : 'Fill'}</button>
    {/if}
  </form>
</div>
