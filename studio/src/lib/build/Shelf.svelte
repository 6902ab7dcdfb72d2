<script lang="ts">
  import { moveFrames } from '@zany/core';
  import Windowed from '$lib/shared/Windowed.svelte';
  import type { EditorSession } from '$lib/client/session.svelte';
  import { addFrame, copyFrame, removeFrames, setFrame, startHere, toggleEnding } from './acts';
  import ShelfFrame from './ShelfFrame.svelte';
  import ShelfScenes from './ShelfScenes.svelte';
  import Popover from '$lib/shared/Popover.svelte';

  let { session, onbring }: { session: EditorSession; onbring: () => void } = $props();

  let menu: { id: string; anchor: HTMLElement } | null = $state(null);
  let renaming: string | null = $state(null);
  let dropBefore: string | null | undefined = $state(undefined);
  let dragged: string[] = [];

  const worst = $derived.by(() => {
    const found = new Map<string, 'must' | 'look'>();
    for (const finding of session.findings)
      if (finding.place.scene !== null && finding.severity !== 'note' && found.get(finding.place.scene) !== 'must')
        found.set(finding.place.scene, finding.severity);
    return found;
  });

  function pick(id: string, event: MouseEvent) {
    const frames = session.program.frames;
    if (event.shiftKey && session.sceneId) {
      const [a, b] = [frames.indexOf(session.sceneId), frames.indexOf(id)].sort((x, y) => x - y) as [number, number];
      session.frameSelection = frames.slice(a, b + 1);
    } else if (event.ctrlKey || event.metaKey) {
      const chosen = session.frameSelection.includes(id) ? session.frameSelection.filter((other) => other !== id) : [...session.frameSelection, id];
      session.frameSelection = chosen.length ? chosen : [id];
    } else session.openScene(id);
  }

  function drop(event: DragEvent) {
    if (dropBefore === undefined || !dragged.length) return;
    event.preventDefault();
    event.stopPropagation();
    if (!dragged.includes(dropBefore ?? '')) session.edit('Reorder frames', moveFrames(session.piece, dragged, dropBefore));
    dropBefore = undefined;
    dragged = [];
  }

  const bundleOf = (id: string) => session.piece.head.bundles?.[session.piece.scenes.get(id)?.bundle ?? '']?.name ?? null;
</script>

<nav
  class="scroll flex min-h-0 flex-col items-center gap-2 border-r border-[var(--line)] bg-[var(--rim)] py-2.5"
  aria-label="Frames"
  ondragover={(event) => {
    if (dragged.length) event.preventDefault();
  }}
  ondrop={drop}
>
  <Windowed list={session.program.frames} size={6} height={102} keep={session.sceneId}>
    {#snippet entry(id, place)}
      {#if bundleOf(id) !== bundleOf(session.program.frames[place - 1] ?? '')}
        {@const bundle = bundleOf(id)}
        <h2 class="w-full shrink-0 truncate px-2 text-center text-[11.5px] {bundle ? 'font-semibold' : 'soft'}" title={bundle ?? 'in no bundle'}>
          {bundle ?? '·'}
        </h2>
      {/if}
      <ShelfFrame
        {session}
        {id}
        {place}
        worst={worst.get(id)}
        dropsHere={dropBefore === id}
        bind:renaming
        onpick={(event) => pick(id, event)}
        onmenu={(anchor) => (menu = { id, anchor })}
        ondrag={() => (dragged = session.frameSelection.includes(id) ? [...session.frameSelection] : [id])}
        ondragover={(before) => {
          if (dragged.length) dropBefore = before ? id : (session.program.frames[place + 1] ?? null);
        }}
        ondragend={() => ((dropBefore = undefined), (dragged = []))}
      />
    {/snippet}
  </Windowed>
  {#if dropBefore === null}<span class="h-0.5 w-14 bg-[var(--gold)]"></span>{/if}
  {#if session.canEdit}
    <button
      class="grid h-11 w-[56px] shrink-0 place-items-center rounded-md border border-dashed border-[var(--soft)] text-[18px] text-[var(--soft)] hover:border-[var(--gold)]"
      aria-label="New frame"
      title="New frame"
      onclick={() => addFrame(session)}>+</button
    >
    <button class="soft shrink-0 text-center text-[11.5px] leading-tight underline" onclick={onbring}>bring in pages</button>
  {/if}
  <ShelfScenes {session} use="sheet" />
  <ShelfScenes {session} use="part" />
</nav>

{#if menu}
  {@const scene = session.piece.scenes.get(menu.id)}
  {#if scene}
    <Popover anchor={menu.anchor} label={scene.name} onclose={() => (menu = null)} width={190}>
      <button class="menu-row" onclick={() => ((renaming = scene.id), (menu = null))}>Rename</button>
      <button class="menu-row" onclick={() => (copyFrame(session), (menu = null))}>Duplicate</button>
      <button class="menu-row" onclick={() => (startHere(session, scene.id), (menu = null))}>Start here</button>
      <button class="menu-row" onclick={() => (toggleEnding(session, scene), (menu = null))}
        >{scene.ending ? 'No ending any more' : 'Mark as an ending'}</button
      >
      <button
        class="menu-row"
        onclick={() => (
          setFrame(session, scene.id, scene.draft ? 'No draft' : 'Mark as a draft', 'draft', scene.draft ? undefined : true),
          (menu = null)
        )}>{scene.draft ? 'No draft any more' : 'Mark as a draft'}</button
      >
      <button class="menu-row text-[var(--brick-text)]" onclick={() => (removeFrames(session), (menu = null))}
        >Delete{session.frameSelection.length > 1 ? ` ${session.frameSelection.length} frames` : ''}</button
      >
    </Popover>
  {/if}
{/if}
