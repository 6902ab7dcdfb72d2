<script lang="ts">
  import { count, exportKinds, exportName, type ExportKind } from '@zany/core';
  import { useSession } from '$lib/shared/desk.svelte';
  import { download, sizeWords } from '$lib/shared/download';

  const session = useSession();

  let busy: ExportKind | null = $state(null);
  let done: { kind: ExportKind; name: string; size: number } | null = $state.raw(null);

  async function fetchExport(kind: ExportKind) {
    busy = kind;
    done = null;
    const problem = (await session.whenSaved())
      ? null
      : 'Some changes are not saved yet, so they cannot be handed over. Try again when the server is reached.';
    const response = problem ? null : await fetch(`/api/pieces/${session.id}/export?to=${kind}`).catch(() => null);
    busy = null;
    if (!response?.ok) return session.notify(problem ?? 'It could not be made: the server cannot be reached just now.');
    const blob = await response.blob();
    const name = exportName(session.piece.head.name, kind);
    download(blob, name);
    done = { kind, name, size: blob.size };
  }
</script>

<div class="flex flex-col gap-6">
  {#each Object.values(exportKinds) as info (info.kind)}
    {@const omitted = info.omits?.(session.program.piece) ?? []}
    <section class="flex items-center gap-5 border-t border-dashed border-[var(--gold)] pt-5" aria-label={info.label}>
      <div class="flex-1">
        <h3 class="text-[17px]">{info.label}</h3>
        <p class="soft">{info.meaning}</p>
        {#if omitted.length}<details class="soft">
            <summary class="cursor-pointer">It leaves out {count(omitted.length, 'thing')} of this piece</summary>
            <ul class="list-disc pl-5">
              {#each omitted as line (line)}<li>{line}</li>{/each}
            </ul>
          </details>{/if}
        <p class="mt-1 tabular-nums">
          {exportName(session.piece.head.name, info.kind)}{#if done?.kind === info.kind}<span class="text-[var(--teal)]">
              · {sizeWords(done.size)}, in your downloads</span
            >{/if}
        </p>
      </div>
      <button class="act act-go h-9" disabled={busy !== null || session.program.frames.length === 0} onclick={() => fetchExport(info.kind)}
        >{busy === info.kind ? 'Making it…' : info.act}</button
      >
    </section>
  {/each}
  <section class="border-t border-dashed border-[var(--gold)] pt-5" aria-label="On the command line">
    <h3 class="text-[17px]">On the command line</h3>
    <p class="soft mb-2">The package can be checked, explored, run and exported without the studio, for instance before every hand-over:</p>
    <pre class="overflow-auto rounded-lg bg-[var(--bar)] px-4 py-3 text-[12.5px] text-[var(--bar-ink)]"><code
        >./zany check {exportName(session.piece.head.name, 'package')}
  ./zany export {exportName(session.piece.head.name, 'package')} --to html --out page.html</code
      ></pre>
  </section>
</div>
