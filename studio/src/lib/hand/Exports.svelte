<script lang="ts">
  import { count, exportGroups, exportKinds, exportName, type ExportForm, type ExportGroup, type ExportKind } from '@zany/core';
  import { useSession } from '$lib/shared/desk.svelte';
  import { downloadFrom, sizeWords } from '$lib/shared/download';
  import { isUnderWay, type Errand } from '$lib/shared/errands';
  import { useErrands } from './errands.svelte';
  import Films from './films/Films.svelte';

  const session = useSession();

  const errands = useErrands();
  /** What is asked for from here until it is among the downloads. */
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
    const errand = problem ? null : await errands.make({ kind: 'export', to: kind });
    busy = null;
    if (problem || errand?.problem) return session.notify(problem ?? errand!.problem!);
    if (errand?.state === 'done' && errand.file) take(errand, errand.file, kind);
  }

  function take(errand: Errand, { name, size }: NonNullable<Errand['file']>, kind: ExportKind) {
    downloadFrom(errands.fileOf(errand), name);
    done = { kind, name, size };
  }

  /** What of what is made, or was lately, is an export of the piece in one form. */
  const underWay = (kind: ExportKind) => errands.all.find((one) => isExport(one, kind) && isUnderWay(one));
  const isExport = ({ wish }: Errand, kind: ExportKind) => wish.kind === 'export' && wish.to === kind;
</script>

<div class="flex flex-col gap-7">
  {#each groups as { label, forms }, i (label)}
    {#if i === 1}<Films />{/if}
    <section class="flex flex-col" aria-label={label}>
      <h3 class="mb-2 text-[17px]">{label}</h3>
      {#each forms as info (info.kind)}
        {@const omitted = info.omits?.(session.program.piece) ?? []}
        {@const making = underWay(info.kind)}
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
              {#if making}
                <span role="status">{making.said ?? (making.state === 'waiting' ? 'waiting for its turn' : 'being made')}…</span>
                <button class="chip" aria-label="Stop {exportName(session.piece.head.name, info.kind)}" onclick={() => errands.stop(making)}
                  >Stop</button
                >
              {:else if done?.kind === info.kind}
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
          <button
            class="act act-go h-9"
            disabled={busy === info.kind || making !== undefined || session.program.frames.length === 0}
            onclick={() => fetchExport(info.kind)}>{info.act}</button
          >
        </section>
      {/each}
    </section>
  {/each}
  <section class="border-t border-dashed border-[var(--gold)] pt-5" aria-label="On the command line">
    <h3 class="text-[17px]">On the command line</h3>
    <p class="soft mb-2">The package can be checked, explored, run and exported without the studio, for instance before every hand-over:</p>
    <pre class="overflow-auto rounded-lg bg-[var(--bar)] px-4 py-3 text-[12.5px] text-[var(--bar-ink)]"><code
        >./zany check {exportName(session.piece.head.name, 'package')}{'\n'}./zany export {exportName(
          session.piece.head.name,
          'package'
        )} --to html --out page.html</code
      ></pre>
  </section>
</div>
