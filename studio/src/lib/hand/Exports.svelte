<script lang="ts">
  import { count, exportGroups, exportKinds, exportName, type ExportForm, type ExportGroup, type ExportKind } from '@zany/core';
  import { useSession } from '$lib/shared/desk.svelte';
  import { download, sizeWords } from '$lib/shared/download';
  import Films from './films/Films.svelte';

  const session = useSession();

  let busy: ExportKind | null = $state(null);
  let done: { kind: ExportKind; name: string; size: number } | null = $state.raw(null);
  /** What a place for banners takes, in kB of 1,000 bytes. */
  let most = $state(150);

  const groups = Object.entries(exportGroups).map(([group, label]) => ({
    label,
    forms: (Object.values(exportKinds) as ExportForm<ExportKind>[]).filter((form) => form.group === (group as ExportGroup)),
  }));

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

<div class="flex flex-col gap-7">
  {#each groups as { label, forms }, i (label)}
    {#if i === 1}<Films />{/if}
    <section class="flex flex-col" aria-label={label}>
      <h3 class="mb-2 text-[17px]">{label}</h3>
      {#each forms as info (info.kind)}
        {@const omitted = info.omits?.(session.program.piece) ?? []}
        <section class="flex items-center gap-5 border-t border-dashed border-[var(--gold)] py-3" aria-label={info.label}>
          <div class="min-w-0 flex-1">
            <h4 class="text-[15px] font-bold">{info.label}</h4>
            <p class="soft">{info.meaning}</p>
            {#if omitted.length}<details class="soft">
                <summary class="cursor-pointer">It leaves out {count(omitted.length, 'thing')} of this piece</summary>
                <ul class="list-disc pl-5">
                  {#each omitted as line (line)}<li>{line}</li>{/each}
                </ul>
              </details>{/if}
            {#if info.weighed}<label class="soft flex items-center gap-2"
                >It may weigh <input
                  class="field h-7 w-[72px] text-right"
                  type="number"
                  min="1"
                  max="100000"
                  bind:value={most}
                  aria-label="It may weigh, in kB"
                /> kB</label
              >{/if}
            <p class="flex flex-wrap items-center gap-x-2 text-[13px] tabular-nums">
              <span>{exportName(session.piece.head.name, info.kind)}</span>
              {#if done?.kind === info.kind}
                <span class="text-[var(--teal)]">{sizeWords(done.size)}, in your downloads</span>
                {#if info.weighed}
                  {@const over = done.size / 1000 - most}
                  <span class="chip {over > 0 ? 'chip-brick' : 'chip-teal'}" role="status"
                    >{Math.abs(over).toFixed(1)} kB {over > 0 ? 'too heavy' : 'to spare'}</span
                  >
                {/if}
              {/if}
            </p>
          </div>
          <button class="act act-go h-9" disabled={busy !== null || session.program.frames.length === 0} onclick={() => fetchExport(info.kind)}
            >{busy === info.kind ? 'Making it…' : info.act}</button
          >
        </section>
      {/each}
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
