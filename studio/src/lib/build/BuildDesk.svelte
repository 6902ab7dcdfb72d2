<script lang="ts">
  import {
    bringInPages,
    cameInWords,
    importFor,
    imports,
    listWords,
    readClip,
    resolveScreen,
    threadsAt,
    type Report,
    type RunState,
  } from '@zany/core';
  import { getDesk, useSession } from '$lib/shared/desk.svelte';
  import { newId } from '$lib/client/ids';
  import { comeIn } from '$lib/client/come-in';
  import { DOCUMENTS, isDocument, unfoldDocuments } from '$lib/client/documents';
  import { PageFile } from '$lib/client/page-file';
  import { isMedia, isPhoto, isPicture, uploadPictures } from '$lib/client/pictures';
  import Ledger from '$lib/shared/Ledger.svelte';
  import RunningPiece from '$lib/shared/RunningPiece.svelte';
  import type { Player } from '@zany/player';
  import { flushSync, onDestroy } from 'svelte';
  import { addressHere, bringInHere, drawHere, pasteThreads, CLIP_TYPE, clipOf, linesOf, paste, removeSelected } from './acts';
  import Aside from './Aside.svelte';
  import BringInBar, { type Bringing } from './BringInBar.svelte';
  import CueSheet from './CueSheet.svelte';
  import LayerMark from './LayerMark.svelte';
  import Shelf from './Shelf.svelte';
  import SideColumn from './SideColumn.svelte';
  import { Sides, type Side } from './sides.svelte';
  import Stage from './Stage.svelte';
  import StateBar from './StateBar.svelte';
  import Strip from './Strip.svelte';
  import ToolMark from './ToolMark.svelte';
  import { tools, type Tool } from './tools';

  /** What the window for choosing files offers. */
  const TAKEN = [
    ...imports.flatMap(({ endings }) => endings.map((ending) => ending.replace(/^.*(?=\.)/, ''))),
    '.pdf,.png,.jpg,.jpeg,.webp,.svg,.webm,.mp4,.ogg,.mp3,.wav,image/png,image/jpeg,image/webp,image/svg+xml,video/webm,video/mp4,audio/*',
  ].join();

  const session = useSession();
  const desk = getDesk();

  let tool: Tool = $state('select');
  let zoom: number | 'fit' = $state('fit');
  let showHits = $state(true);
  const sides = new Sides();
  /** So wide a shelf is that names can be read on, CSS px. */
  const NAMES = 148;
  let stage: ReturnType<typeof Stage> | undefined = $state();
  let finder: HTMLInputElement | undefined = $state();
  let picker: HTMLInputElement | undefined = $state();
  let player: Player | null = $state.raw(null);
  let slow = $state(false);
  let touch = $state(false);
  let dragging = $state(false);
  let bringing: Bringing | null = $state.raw(null);
  let waitingFiles: readonly File[] | null = $state.raw(null);
  /** Photographs of paper that frames are being cut out of. */
  let onPaper: readonly File[] | null = $state.raw(null);
  let chooser: HTMLInputElement;
  let comparer: HTMLInputElement;

  /** The tools stand in the header where there is room in it. */
  const isInHeader = $derived(sides.window >= 1240);
  /** By their marks alone where there is little. */
  const hasWords = $derived(sides.window >= 1640 || !isInHeader);
  $effect(() => {
    desk.tools = isInHeader ? toolRow : null;
    return () => (desk.tools = null);
  });

  /** Folded away while it is tried. */
  let ledgerIsAway = $state(false);

  /** A panel opens beside the stage, and the ledger while it is tried, whether that is folded or not. */
  const isOpen = (side: Side) => {
    if (side === 'beside' && session.trying) return !ledgerIsAway;
    return !sides.isFolded(side) || (side === 'beside' && session.shownPanel !== null);
  };

  /** Unfolds a side at once, to come to something in it. */
  const unfold = (side: Side) => sides.isFolded(side) && flushSync(() => sides.fold(side, false));

  /** Whether it goes on drawing what it has drawn one of. */
  let keepsTool = $state(false);

  function pick(picked: Tool, isKept = false) {
    tool = picked;
    keepsTool = isKept;
  }

  const takeBack = desk.lend({
    pickTool: (picked) => pick(picked),
    focusFinder: () => {
      unfold('cues');
      finder?.focus();
    },
    focusPicker: () => {
      unfold('beside');
      picker?.focus();
    },
    focusBar: () => {
      unfold('cues');
      const first = document.querySelector<HTMLElement>('[data-bar][role=toolbar] [role=spinbutton]');
      first?.focus();
      if (first instanceof HTMLInputElement) first.select();
    },
    zoomToSelection: () => stage?.zoomToSelection(),
    isDrawing: () => tool !== 'select',
    drawInMiddle: () => stage?.drawInMiddle(),
    write: () => {
      const id = session.selection.at(-1);
      if (!id) return;
      unfold('cues');
      // At once, so that the first letters are not taken for commands.
      flushSync(() => (session.writing = id));
      document.querySelector<HTMLInputElement>(`[data-row="${id}"] [aria-label="Thread line"]`)?.focus();
    },
    bringIn: () => chooser.click(),
    compareWith: () => comparer.click(),
    zoom: (to) => (to === 'in' || to === 'out' ? stage?.zoomBy(to === 'in' ? 1.25 : 0.8) : stage?.zoomTo(to === 'fit' ? 'fit' : 1)),
    toggleHits: () => (showHits = !showHits),
    fold: (side) => {
      if (side === 'all') sides.foldAll();
      else if (side === 'beside' && session.trying) ledgerIsAway = !ledgerIsAway;
      else sides.fold(side);
    },
  });
  onDestroy(() => {
    takeBack();
    session.trying = false;
  });

  /** Asks how large the frames shall be only when there is something to ask. */
  async function take(files: readonly File[]) {
    const media = files.filter(isMedia);
    const pages = files.filter((file) => (isPicture(file) || isDocument(file)) && !isMedia(file));
    const others = files.filter((other) => !pages.includes(other) && !isMedia(other));
    const labels = imports.map(({ label }) => label);
    for (const file of others.filter(({ name }) => !importFor(name)))
      session.notify(`${file.name} is no PNG, JPEG, WebP or SVG picture, no ${DOCUMENTS}, no video or sound, and no ${listWords(labels, 'or')}.`);
    if (!session.canEdit) return;
    for (const file of others.filter(({ name }) => importFor(name))) void readIn(file);
    if (media.length) void send(media, 'layers');
    if (pages.length) waitingFiles = pages.some(isDocument) ? await unfolded(pages) : pages;
  }

  /** Files with the pages of documents in their place; null where nothing came of them. */
  async function unfolded(files: readonly File[]): Promise<readonly File[] | null> {
    const stop = new AbortController();
    const read = await unfoldDocuments(files, (done, all) => (bringing = { done, all, stop, what: 'read' }), stop.signal);
    bringing = null;
    session.refuse(read.left);
    return stop.signal.aborted || read.files.length === 0 ? null : read.files;
  }

  /** What is no picture: read by what it is, as one edit; what is left is named. */
  async function readIn(file: File) {
    const stop = new AbortController();
    const read = await comeIn(
      session.id,
      () => session.plain.piece,
      file,
      (done, all) => (bringing = { done, all, stop }),
      stop.signal
    );
    bringing = null;
    if (typeof read === 'string') return session.notify(read);
    if (stop.signal.aborted) return;
    const before = new Set(session.piece.scenes.keys());
    session.edit(`Bring in ${file.name}`, read.operations, 'plain');
    const isNew = (id: string) => !before.has(id);
    const first = session.program.frames.find(isNew) ?? [...session.piece.scenes.keys()].find(isNew);
    if (first) session.openScene(first);
    session.notify(cameInWords(read));
    session.refuse(read.left.map((line) => `${file.name}: ${line}`));
  }

  /** As layers an SVG drawing comes in shape by shape, to be changed like anything drawn here. */
  async function bringIn(how: 'own size' | 'fitted' | 'layers') {
    const files = waitingFiles ?? [];
    waitingFiles = null;
    const drawings = how === 'layers' ? files.filter((file) => /\.svg$/i.test(file.name) || file.type === 'image/svg+xml') : [];
    for (const file of drawings) await drawHere(session, file.name, await file.text());
    const others = files.filter((file) => !drawings.includes(file));
    if (others.length) await send(others, how);
  }

  async function send(files: readonly File[], how: 'own size' | 'fitted' | 'layers') {
    const stop = new AbortController();
    bringing = { done: 0, all: files.length, stop };
    const { taken, problems } = await uploadPictures(session.id, files, (done, all) => (bringing = { done, all, stop }), stop.signal);
    bringing = null;
    if (how === 'layers') {
      bringInHere(session, taken);
      return session.refuse(problems);
    }
    const before = new Set(session.program.frames);
    const pages = bringInPages(session.piece, taken, how === 'fitted', newId);
    if (taken.length) session.edit(taken.length === 1 ? 'Bring in a page' : `Bring in ${taken.length} pages`, pages.operations);
    const first = session.program.frames.find((id) => !before.has(id));
    if (first) session.openScene(first);
    session.refuse([...problems, ...pages.left]);
  }

  const isField = (target: EventTarget | null) => target instanceof HTMLElement && ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName);

  function copy(event: ClipboardEvent) {
    const clip = clipOf(session);
    if (isField(event.target) || !clip || session.trying || !getSelection()?.isCollapsed) return;
    event.preventDefault();
    event.clipboardData?.setData(CLIP_TYPE, JSON.stringify(clip));
    event.clipboardData?.setData('text/plain', linesOf(session));
    if (event.type === 'cut') removeSelected(session);
  }

  function pasteHere(event: ClipboardEvent) {
    if (isField(event.target) || session.trying) return;
    const files = [...(event.clipboardData?.files ?? [])];
    if (files.length) return take(files);
    const text = event.clipboardData?.getData(CLIP_TYPE);
    if (!session.canEdit) return;
    if (!text) {
      const words = event.clipboardData?.getData('text/plain') ?? '';
      return pasteThreads(session, words) || addressHere(session, words) ? event.preventDefault() : undefined;
    }
    event.preventDefault();
    const clip = readClip(text);
    if (clip.ok) paste(session, clip.value);
    else session.notify(clip.error.sentence);
  }

  function drop(event: DragEvent) {
    dragging = false;
    if (!event.dataTransfer?.files.length) return;
    event.preventDefault();
    take([...event.dataTransfer.files]);
  }

  let following: ReturnType<typeof setTimeout> | undefined;

  /** The cue sheet lights what fired, then goes along to the frame that is shown. */
  function report(reports: readonly Report[], run: RunState) {
    session.addReports(reports, run);
    clearTimeout(following);
    if (run.frame !== session.sceneId) following = setTimeout(() => session.trying && session.openScene(run.frame), 700);
  }

  /** While trying, what takes a click on the screen: in the frame, its sheets, its parts, and what lies over it. */
  const live = $derived(
    session.trying && session.run
      ? resolveScreen(session.program, session.run)
          .surfaces.flatMap((surface) => surface.all)
          .filter(({ node }) => threadsAt(node).some((thread) => thread.enabled && thread.cue.type === 'click'))
          .map(({ node }) => node.key)
      : []
  );

  $effect(() => {
    if (session.trying) return;
    slow = false;
    session.ledger = [];
    session.run = null;
  });

  const zoomWords = $derived(zoom === 'fit' ? 'fit' : `${Math.round(zoom * 100)} %`);
</script>

<svelte:window
  bind:innerWidth={sides.window}
  oncopy={copy}
  oncut={copy}
  onpaste={pasteHere}
  ondragover={(event) => {
    if (event.dataTransfer?.types.includes('Files')) {
      event.preventDefault();
      dragging = true;
    }
  }}
  ondragleave={(event) => !event.relatedTarget && (dragging = false)}
  ondrop={drop}
/>
<input
  bind:this={chooser}
  type="file"
  multiple
  hidden
  data-chooser
  accept={TAKEN}
  onchange={(event) => {
    take([...(event.currentTarget.files ?? [])]);
    event.currentTarget.value = '';
  }}
/>

<input
  bind:this={comparer}
  type="file"
  hidden
  data-comparer
  accept="image/*"
  onchange={(event) => {
    const [file] = event.currentTarget.files ?? [];
    if (file) stage?.compareWith(file);
    event.currentTarget.value = '';
  }}
/>

{#snippet toolRow()}
  {#if session.trying}
    {#if !isInHeader}<span class="font-semibold text-[var(--teal)]">Trying</span>{/if}
    <button class="chip" onclick={() => player?.restart(session.sceneId ?? undefined)}>from this frame</button>
    <button class="chip" onclick={() => player?.restart()}>from the start</button>
    <button class="chip {slow ? 'chip-on' : ''}" aria-pressed={slow} onclick={() => ((slow = !slow), player?.setRate(slow ? 0.2 : 1))}>slowly</button>
    <button class="chip {touch ? 'chip-on' : ''}" aria-pressed={touch} title="A finger: no hovering" onclick={() => (touch = !touch)}
      >by finger</button
    >
    <span class={isInHeader ? 'w-1' : 'flex-1'}></span>
    <button class="act act-go" onclick={() => (session.trying = false)}>Done <kbd>Esc</kbd></button>
  {:else}
    {#if session.canEdit}
      {#each tools as item (item.id)}
        <button
          class="chip h-[26px] !px-1.5 {tool === item.id ? 'chip-on' : ''} {tool === item.id && keepsTool ? 'ring-2 ring-[var(--gold)]' : ''}"
          aria-pressed={tool === item.id}
          aria-label={item.label}
          title={item.id === 'select' ? `${item.label} (${item.key})` : `${item.label} (${item.key}); twice to draw many`}
          onclick={() => pick(item.id)}
          ondblclick={() => item.id !== 'select' && pick(item.id, true)}
          ><ToolMark tool={item.id} />{#if hasWords}<span class={isInHeader ? '' : 'hidden @[680px]:inline'}>{item.label}</span>{/if}</button
        >
      {/each}
    {/if}
    {#if session.canEdit}<button
        class="chip h-[26px] !px-1.5 !text-[var(--plum)]"
        aria-label="Starters"
        title="Starter parts (Y)"
        onclick={() => (session.panel = 'starter parts')}
        ><LayerMark type="placement" />{#if hasWords}<span class={isInHeader ? '' : 'hidden @[680px]:inline'}>Starters</span>{/if}</button
      >{/if}
    <span class={isInHeader ? 'w-2' : 'flex-1'}></span>
    <button class="chip chip-ghost" aria-pressed={showHits} title="Show what can be pressed (A)" onclick={() => (showHits = !showHits)}
      >{showHits ? 'hits' : 'no hits'}</button
    >
    <button class="chip chip-ghost" title="Zoom: Ctrl and wheel, + and −; 0 fits" onclick={() => stage?.zoomTo(zoom === 'fit' ? 1 : 'fit')}
      >{zoomWords}</button
    >
    <button class="act act-go" disabled={!session.scene} onclick={() => (session.trying = true)} title="Try it in place (T)">Try <kbd>T</kbd></button>
  {/if}
{/snippet}

<main class="grid h-full" style:grid-template-columns={sides.columns(isOpen)}>
  <SideColumn side="shelf" {sides} open={isOpen('shelf')}
    ><Shelf
      {session}
      onbring={() => chooser.click()}
      onsize={(isSmall) => {
        sides.widen('shelf', isSmall ? NAMES : null);
        sides.keep();
      }}
    /></SideColumn
  >
  <SideColumn side="cues" {sides} open={isOpen('cues')}><CueSheet {session} bind:finder /></SideColumn>
  <div class="relative flex min-h-0 min-w-0 flex-col border-l border-[var(--line)]">
    {#if !isInHeader}<div class="@container shrink-0 border-b border-[var(--line)] bg-[var(--rim)]">
        <div class="flex min-h-[38px] flex-wrap items-center gap-x-1.5 gap-y-1 px-3 py-1 [&_.chip]:whitespace-nowrap">
          {@render toolRow()}
        </div>
      </div>{/if}
    <div class="relative flex min-h-0 flex-1 flex-col">
      {#if session.trying}
        <div class="linen-ground h-full p-6 outline-4 -outline-offset-4 outline-[var(--teal)]">
          <RunningPiece
            program={session.program}
            assetUrl={session.assetUrl}
            frame={session.sceneId}
            state={session.stateId}
            {touch}
            grab
            bind:player
            {live}
            onreport={report}
            onpad={session.onPad}
            onlink={(address) => session.notify(`Opened ${address}`)}
          />
        </div>
      {:else if session.program.frames.length === 0}
        <div class="linen-ground grid h-full place-items-center">
          <div class="max-w-sm text-center">
            <p class="mb-4 text-[15px]">A piece is made of frames. Bring in the pictures of your pages: each becomes a frame, ready for hit areas.</p>
            <button class="act act-go" onclick={() => chooser.click()}>Choose pictures</button>
          </div>
        </div>
      {:else}
        <StateBar {session} />
        <Stage bind:this={stage} {session} bind:tool {keepsTool} bind:zoom {showHits} />
      {/if}
    </div>
    {#if !session.trying}<Strip {session} folded={!isOpen('strip')} onfold={(now) => sides.fold('strip', now)} />{/if}
  </div>
  <SideColumn
    side="beside"
    {sides}
    open={isOpen('beside')}
    onunfold={() => {
      if (session.trying) ledgerIsAway = false;
      else sides.fold('beside', false);
    }}
  >
    {#if session.trying}<Ledger
        {session}
        onset={(variable, value) => void player?.send({ type: 'set', variable, value })}
        onopen={(layer) => {
          const scene = session.piece.layers.get(layer)?.scene;
          session.trying = false;
          if (scene) session.openScene(scene);
          session.select([layer]);
        }}
      />{:else}<Aside {session} bind:picker />{/if}
  </SideColumn>
</main>

{#if dragging}<div
    class="pointer-events-none fixed inset-3 z-40 grid place-items-center rounded-2xl border-2 border-dashed border-[var(--gold)] bg-[color-mix(in_srgb,var(--gold-wash)_75%,transparent)] text-[18px]"
  >
    Let go: each picture becomes a frame
  </div>{/if}
{#if waitingFiles || bringing}<BringInBar
    files={waitingFiles}
    {bringing}
    head={session.piece.head}
    into={session.scene?.scene.name ?? null}
    ontake={bringIn}
    onpaper={waitingFiles?.every((file) => isPhoto(file) && !(file instanceof PageFile))
      ? () => ([onPaper, waitingFiles] = [waitingFiles, null])
      : null}
    oncancel={() => (waitingFiles = null)}
  />{/if}
{#if onPaper}
  {#await import('$lib/paper/FromPaper.svelte') then { default: FromPaper }}
    <FromPaper
      files={onPaper}
      width={session.piece.head.width}
      ontake={(pages) => {
        onPaper = null;
        void send(pages, 'own size');
      }}
      oncancel={() => (onPaper = null)}
    />
  {/await}
{/if}
