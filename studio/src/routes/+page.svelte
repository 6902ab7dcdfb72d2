<script lang="ts">
  import { goto, invalidate } from '$app/navigation';
  import { ask } from '$lib/client/api';
  import Beginnings from '$lib/workroom/Beginnings.svelte';
  import Cover from '$lib/workroom/Cover.svelte';
  import NewPiece from '$lib/workroom/NewPiece.svelte';
  import Starters from '$lib/workroom/Starters.svelte';
  import { beginTour } from '$lib/tour/begin';
  import Logo from '$lib/shared/Logo.svelte';
  import Notices from '$lib/shared/Notices.svelte';
  import ThemeButton from '$lib/shared/ThemeButton.svelte';
  import { Notes } from '$lib/shared/notes.svelte';
  import { BringingIn } from '$lib/workroom/bringing-in.svelte';
  import ComingIn from '$lib/workroom/ComingIn.svelte';
  import { takeFiles } from '$lib/workroom/takeFiles';
  import FolderInput from '@lucide/svelte/icons/folder-input';
  import Plus from '@lucide/svelte/icons/plus';
  import type { Result } from '@zany/core';
  import type { PieceCard } from '$lib/shared/types';
  import type { PageData } from './$types';

  let { data }: { data: PageData } = $props();

  const notes = new Notes();
  let making = $state(false);
  let busy = $state('');
  let dragging = $state(false);
  let chooser: HTMLInputElement;

  const refresh = () => invalidate('zany:pieces');
  const bringing = new BringingIn({ say: (text) => (busy = text), problem: (text) => notes.notify(text), came: refresh });

  /**
   * What covers show follows a piece by a moment: asked for again, a few times, while some are behind. Asked for beside the page's own
   * data, since loading that anew would break off going somewhere else.
   */
  let fresh: readonly PieceCard[] | null = $state.raw(null);
  const pieces = $derived(fresh ?? data.pieces);
  let looks = 0;
  $effect(() => {
    void data.pieces;
    fresh = null;
    looks = 0;
  });
  $effect(() => {
    if (!pieces.some((piece) => piece.isBehind) || looks > 8) return;
    const timer = setTimeout(() => void look(), 700 * 1.5 ** looks++);
    return () => clearTimeout(timer);
  });

  async function look() {
    const before = data.pieces;
    const answer = await ask<{ pieces: PieceCard[] }>('GET', '/api/pieces');
    if (answer.ok && data.pieces === before) fresh = answer.value.pieces;
  }

  async function attempt<T>(work: Promise<Result<T>>): Promise<T | null> {
    const answer = await work;
    if (answer.ok) return answer.value;
    notes.notify(answer.error.sentence);
    return null;
  }

  async function make(name: string, width: number, height: number) {
    const made = await attempt(ask<{ id: string }>('POST', '/api/pieces', { name, width, height }));
    if (made) await goto(`/p/${made.id}/build`);
  }

  async function takeStarter(id: string) {
    const made = await attempt(ask<{ id: string }>('POST', `/api/starters/${id}`));
    if (made) await goto(`/p/${made.id}/build`);
  }

  async function tour() {
    const problem = await beginTour();
    if (problem) notes.notify(problem);
  }

  async function rename(card: PieceCard, name: string) {
    await attempt(ask('PATCH', `/api/pieces/${card.id}`, { name }));
    await refresh();
  }

  async function duplicate(card: PieceCard) {
    await attempt(ask('POST', `/api/pieces/${card.id}/duplicate`));
    await refresh();
  }

  async function remove(card: PieceCard) {
    if ((await attempt(ask('DELETE', `/api/pieces/${card.id}`))) === null) return;
    await refresh();
    notes.notify(`“${card.name}” is deleted.`, {
      label: 'Undo',
      run: () => void attempt(ask('POST', `/api/pieces/${card.id}/restore`)).then(refresh),
    });
  }

  async function bringIn(files: readonly File[]) {
    await takeFiles(files, {
      say: (text) => (busy = text),
      problem: (text) => notes.notify(text),
      open: (id) => goto(`/p/${id}/build`),
      bringIn: (file) => bringing.bringIn(file),
    });
    busy = '';
    await refresh();
  }

  function drop(event: DragEvent) {
    event.preventDefault();
    dragging = false;
    void bringIn([...(event.dataTransfer?.files ?? [])]);
  }
</script>

<svelte:head><title>Workroom · Zany Thread</title></svelte:head>
<svelte:window
  ondragover={(event) => {
    event.preventDefault();
    dragging = event.dataTransfer?.types.includes('Files') ?? false;
  }}
  ondragleave={(event) => !event.relatedTarget && (dragging = false)}
  ondrop={drop}
  onpaste={(event) => event.clipboardData?.files.length && bringIn([...event.clipboardData.files])}
/>

<div class="flex h-screen flex-col">
  <header class="flex h-[46px] shrink-0 items-center gap-3 border-b border-[var(--line)] bg-[var(--sheet)] px-4">
    <Logo />
    <h1 class="text-[15px]">Workroom</h1>
    <span class="flex-1"></span>
    <a class="soft underline" href="/account" title="Your account">{data.person.name}</a>
    <ThemeButton />
    <form method="POST" action="/sign-out"><button class="act act-plain">Sign out</button></form>
  </header>

  <main class="scroll flex-1 px-10 py-8">
    <div class="mx-auto flex max-w-[1320px] flex-col gap-6">
      <input
        bind:this={chooser}
        type="file"
        multiple
        hidden
        accept=".pdf,.odp,.pptx,.scxml,.png,.jpg,.jpeg,.webp,.svg,.zip,.json"
        onchange={(event) => {
          void bringIn([...(event.currentTarget.files ?? [])]);
          event.currentTarget.value = '';
        }}
      />
      {#if pieces.length > 0}
        <div class="flex flex-wrap items-center gap-3">
          <button class="act act-go" onclick={() => (making = !making)} aria-expanded={making}><Plus size={15} /> New piece</button>
          <button class="act" onclick={() => chooser.click()}><FolderInput size={15} /> Bring in pictures or a package</button>
          <span class="soft">{busy || 'or drop the files anywhere here'}</span>
          <button class="chip chip-gold ml-auto" onclick={tour}>New here? Six steps, done on a piece of your own →</button>
        </div>
      {:else if busy}
        <p class="soft">{busy}</p>
      {/if}
      <ComingIn {bringing} />
      {#if making && pieces.length > 0}
        <NewPiece onmake={make} onclose={() => (making = false)} />
        <section class="flex max-w-[880px] flex-col gap-3" aria-label="Pieces to take apart">
          <h2 class="text-[15px]">Or one to take apart</h2>
          <Starters ontake={takeStarter} />
        </section>
      {/if}
      {#if pieces.length === 0}<Beginnings onpictures={() => chooser.click()} onmake={make} ontake={takeStarter} ontour={tour} />{/if}
      <div class="flex flex-wrap gap-x-7 gap-y-8">
        {#each pieces as card (card.id)}
          <Cover {card} onrename={(name) => rename(card, name)} onduplicate={() => duplicate(card)} ondelete={() => remove(card)} />
        {/each}
      </div>
    </div>
  </main>
</div>

{#if dragging}
  <div
    class="pointer-events-none fixed inset-3 z-40 grid place-items-center rounded-2xl border-2 border-dashed border-[var(--gold)] bg-[color-mix(in_srgb,var(--gold-wash)_80%,transparent)] text-[18px]"
  >
    Let go: pictures become a new piece, a package comes in as it is
  </div>
{/if}
<Notices session={notes} />
