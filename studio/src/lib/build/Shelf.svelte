<script lang="ts">
  import { fieldKey, takeFocus } from '$lib/shared/focus';
  import { moveFrames } from '@zany/core';
  import Thumb from '$lib/shared/Thumb.svelte';
  import type { EditorSession } from '$lib/client/session.svelte';
  import { addFrame, copyFrame, removeFrames, setFrame } from './acts';
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

  function rename(id: string, event: Event) {
    const name = (event.currentTarget as HTMLInputElement).value.trim();
    const old = session.piece.scenes.get(id)?.name;
    renaming = null;
    if (name && name !== old) setFrame(session, id, `Rename ${old}`, 'name', name.slice(0, 120));
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
  const isStart = (id: string) => session.piece.head.start.includes(id);
  const startHere = (id: string) =>
    session.edit('Set the start frame', [{ op: 'set', table: 'piece', id: session.piece.head.id, path: ['start'], value: [id] }]);
</script>

<nav
  class="scroll flex min-h-0 flex-col items-center gap-2 border-r border-[var(--line)] bg-[var(--rim)] py-2.5"
  aria-label="Frames"
  ondragover={(event) => {
    if (dragged.length) event.preventDefault();
  }}
  ondrop={drop}
>
  {#each session.program.frames as id, place (id)}
    {@const program = session.program.scenes.get(id)!}
    {@const isOpen = id === session.sceneId}
    {@const kind = session.piece.head.kinds?.[program.scene.kind ?? '']}
    {@const bundle = bundleOf(id)}
    {#if bundle !== bundleOf(session.program.frames[place - 1] ?? '')}
      <h2 class="w-full shrink-0 truncate px-2 text-center text-[11.5px] {bundle ? 'font-semibold' : 'soft'}" title={bundle ?? 'in no bundle'}>
        {bundle ?? '·'}
      </h2>
    {/if}
    <div
      class="relative flex w-[78px] flex-col items-center"
      role="group"
      aria-label={program.scene.name}
      data-shelf-frame={id}
      draggable={session.canEdit}
      ondragstart={() => (dragged = session.frameSelection.includes(id) ? [...session.frameSelection] : [id])}
      ondragover={(event) => {
        if (!dragged.length) return;
        const box = event.currentTarget.getBoundingClientRect();
        dropBefore = event.clientY < box.top + box.height / 2 ? id : (session.program.frames[place + 1] ?? null);
      }}
      ondragend={() => ((dropBefore = undefined), (dragged = []))}
    >
      {#if dropBefore === id}<span class="absolute -top-1.5 left-1 right-1 h-0.5 bg-[var(--gold)]"></span>{/if}
      <button
        class="relative grid max-h-[92px] place-items-center rounded-md border-2 bg-[var(--sheet)] p-[2px] {isOpen
          ? 'border-[var(--gold)]'
          : session.frameSelection.includes(id)
            ? 'border-[var(--plum)]'
            : 'border-transparent'}"
        aria-current={isOpen ? 'true' : undefined}
        aria-label="Open {program.scene.name}"
        onclick={(event) => pick(id, event)}
        ondblclick={() => session.canEdit && (renaming = id)}
        oncontextmenu={(event) => {
          event.preventDefault();
          if (!session.frameSelection.includes(id)) session.openScene(id);
          menu = { id, anchor: event.currentTarget };
        }}
      >
        <span class={program.scene.draft ? 'opacity-70 outline-2 outline-dashed outline-[var(--soft)]' : ''}
          ><Thumb scene={program} assetUrl={session.assetUrl} width={66} height={86} /></span
        >
        {#if worst.get(id)}<span
            class="absolute right-0.5 top-0.5 grid h-3.5 w-3.5 place-items-center rounded-full text-[9px] font-bold text-white {worst.get(id) ===
            'must'
              ? 'bg-[var(--brick)]'
              : 'bg-[var(--gold-text)]'}"
            title={worst.get(id) === 'must' ? 'something must be fixed' : 'worth a look'}>{worst.get(id) === 'must' ? '×' : '!'}</span
          >{/if}
      </button>
      {#if renaming === id}
        <input
          class="field h-5 w-full !px-1 text-[11px]"
          value={program.scene.name}
          use:takeFocus
          maxlength="120"
          aria-label="Name of the frame"
          onblur={(event) => rename(id, event)}
          onkeydown={fieldKey}
        />
      {:else}
        <span class="w-full truncate text-center text-[11.5px] {isOpen ? '' : 'soft'}" title={program.scene.name}
          >{isStart(id) ? '▸ ' : ''}{#if kind}<span style:color={kind.color} title={kind.name}>{kind.mark}</span>&nbsp;{/if}{program.scene.ending
            ? '◼ '
            : ''}{place + 1}
          {program.scene.name}</span
        >
      {/if}
    </div>
  {/each}
  {#if dropBefore === null}<span class="h-0.5 w-14 bg-[var(--gold)]"></span>{/if}
  {#if session.canEdit}
    <button
      class="grid h-12 w-[66px] shrink-0 place-items-center rounded-md border border-dashed border-[var(--soft)] text-[18px] text-[var(--soft)] hover:border-[var(--gold)]"
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
      <button class="menu-row" onclick={() => (startHere(scene.id), (menu = null))}>Start here</button>
      <button
        class="menu-row"
        onclick={() => (
          setFrame(session, scene.id, scene.ending ? 'No ending' : 'Mark as an ending', 'ending', scene.ending ? undefined : true),
          (menu = null)
        )}>{scene.ending ? 'No ending any more' : 'Mark as an ending'}</button
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
