<script lang="ts">
  import { goto } from '$app/navigation';
  import { page } from '$app/state';
  import { count } from '@zany/core';
  import { useSession } from '$lib/shared/desk.svelte';
  import { sizeWords } from '$lib/shared/download';
  import Thumb from '$lib/shared/Thumb.svelte';
  import { setErrands } from './errands.svelte';
  import Exports from './Exports.svelte';
  import MadeLately from './MadeLately.svelte';
  import People from './People.svelte';
  import ReviewLinks from './ReviewLinks.svelte';
  import VersionsPage from './versions/VersionsPage.svelte';

  const session = useSession();
  setErrands(session);

  const pages = [
    { id: 'files', label: 'Files', Page: Exports, isWide: false },
    { id: 'review', label: 'Review', Page: ReviewLinks, isWide: false },
    { id: 'versions', label: 'Versions', Page: VersionsPage, isWide: true },
    { id: 'people', label: 'People', Page: People, isWide: false },
  ] as const;
  const open = $derived(pages.find(({ id }) => id === page.url.searchParams.get('page')) ?? pages[0]);
  const show = (id: string) => goto(`?page=${id}`, { keepFocus: true, noScroll: true, replaceState: true });

  const must = $derived(session.findings.filter((finding) => finding.severity === 'must'));
  const look = $derived(session.findings.filter((finding) => finding.severity === 'look'));
  const pictures = $derived([...session.piece.assets.values()]);
  const pictureBytes = $derived(pictures.reduce((sum, asset) => sum + asset.size, 0));
  const start = $derived(session.program.scenes.get(session.piece.head.start[0] ?? session.program.frames[0] ?? '') ?? null);

  /** Arrow keys go from tab to tab, as tabs do. */
  function key(event: KeyboardEvent) {
    const step = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
    if (!step) return;
    event.preventDefault();
    const next = pages[(pages.indexOf(open) + step + pages.length) % pages.length]!;
    void show(next.id).then(() => document.getElementById(`page-${next.id}`)?.focus());
  }
</script>

<main class="linen-ground scroll h-full">
  <div class="mx-auto grid gap-12 px-10 py-10 {open.isWide ? 'max-w-[1280px] grid-cols-1' : 'max-w-[1080px] grid-cols-[300px_minmax(0,1fr)]'}">
    <div class="flex flex-col items-center gap-3 {open.isWide ? 'hidden' : ''}">
      <span class="rounded-lg shadow-xl"><Thumb scene={start} assetUrl={session.assetUrl} width={280} height={440} radius={10} /></span>
      <p class="soft text-center">
        {count(session.program.frames.length, 'frame')}, {count(session.piece.threads.size, 'thread')}, {count(pictures.length, 'picture')} ({sizeWords(
          pictureBytes
        )})
      </p>
      {#if open.id === 'files'}<MadeLately />{/if}
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
      <div class="flex gap-1 border-b border-[var(--line)]" role="tablist" aria-label="Hand over">
        {#each pages as { id, label } (id)}
          <button
            role="tab"
            id="page-{id}"
            aria-selected={open.id === id}
            aria-controls="hand-page"
            tabindex={open.id === id ? 0 : -1}
            class="-mb-px border-b-[3px] px-3 py-1.5 text-[15px] {open.id === id
              ? 'border-dashed border-[var(--gold)] font-bold'
              : 'soft border-transparent hover:text-[var(--ink)]'}"
            style="font-family: var(--heading)"
            onclick={() => show(id)}
            onkeydown={key}>{label}</button
          >
        {/each}
      </div>
      <div id="hand-page" role="tabpanel" aria-labelledby="page-{open.id}"><open.Page /></div>
    </div>
  </div>
</main>
