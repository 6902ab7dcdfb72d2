<script lang="ts">
  import { count, exportKinds, exportName, type ExportKind } from '@zany/core';
  import { useSession } from '$lib/shared/desk.svelte';
  import { download } from '$lib/shared/download';
  import Thumb from '$lib/shared/Thumb.svelte';

  const session = useSession();

  let busy: ExportKind | null = $state(null);
  let done: { kind: ExportKind; name: string; size: number } | null = $state.raw(null);

  const must = $derived(session.findings.filter((finding) => finding.severity === 'must'));
  const look = $derived(session.findings.filter((finding) => finding.severity === 'look'));
  const pictures = $derived([...session.piece.assets.values()]);
  const pictureBytes = $derived(pictures.reduce((sum, asset) => sum + asset.size, 0));
  const start = $derived(session.program.scenes.get(session.piece.head.start[0] ?? session.program.frames[0] ?? '') ?? null);

  const size = (bytes: number) => (bytes > 1e6 ? `${(bytes / 1e6).toFixed(1)} MB` : `${Math.max(1, Math.round(bytes / 1e3))} kB`);

  /** Waits until everything is saved, so that what is handed over is what is on the screen. */
  async function fetchExport(kind: ExportKind) {
    busy = kind;
    done = null;
    for (let i = 0; i < 50 && session.saveState !== 'saved'; i++) await new Promise((resolve) => setTimeout(resolve, 100));
    const problem =
      session.saveState === 'saved' ? null : 'Some changes are not saved yet, so they cannot be handed over. Try again when the server is reached.';
    const response = problem ? null : await fetch(`/api/pieces/${session.id}/export?to=${kind}`).catch(() => null);
    busy = null;
    if (!response?.ok) return session.notify(problem ?? 'It could not be made: the server cannot be reached just now.');
    const blob = await response.blob();
    const name = exportName(session.piece.head.name, kind);
    download(blob, name);
    done = { kind, name, size: blob.size };
  }
</script>

<main class="linen-ground scroll h-full">
  <div class="mx-auto grid max-w-[1080px] grid-cols-[300px_minmax(0,1fr)] gap-12 px-10 py-10">
    <div class="flex flex-col items-center gap-3">
      <span class="rounded-lg shadow-xl"><Thumb scene={start} assetUrl={session.assetUrl} width={280} height={440} radius={10} /></span>
      <p class="soft text-center">
        {count(session.program.frames.length, 'frame')}, {count(session.piece.threads.size, 'thread')}, {count(pictures.length, 'picture')} ({size(
          pictureBytes
        )})
      </p>
    </div>
    <div class="flex flex-col gap-6">
      <h2 class="text-[26px]">Hand over {session.piece.head.name}</h2>
      <p class="text-[15px]">
        {#if !session.audit || !session.auditIsDone}Walking the piece…
        {:else if must.length}<a class="chip chip-brick" href="/p/{session.id}/walk">{count(must.length, 'thing')} must be fixed</a> first{look.length
            ? `, and ${look.length} more are worth a look`
            : ''}. You can hand it over as it is all the same.
        {:else if look.length}Nothing must be fixed; <a class="chip chip-gold" href="/p/{session.id}/walk">{count(look.length, 'thing')}</a>
          {look.length === 1 ? 'is' : 'are'} worth a look.
        {:else if session.isWhole}<span class="chip chip-teal">no loose end</span> Everything was walked: what was looked for was not found.
        {:else}No loose end was found as far as the piece was walked.{/if}
        {#if session.isWhole === false}
          <span class="mt-2 block"
            ><a class="chip chip-part" href="/p/{session.id}/walk">◐ not all walked</a> Exploring was cut ({session.audit?.cut}), so what lies beyond
            has not been looked at. In Walk you can let it go on.</span
          >
        {/if}
      </p>
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
                  · {size(done.size)}, in your downloads</span
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
  </div>
</main>
