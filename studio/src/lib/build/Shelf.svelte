<script lang="ts">
  import Popover from '$lib/shared/Popover.svelte';
  import Windowed from '$lib/shared/Windowed.svelte';
  import type { EditorSession } from '$lib/client/session.svelte';
  import { addFrame, putFrames, takeApart } from './acts';
  import FrameMenu from './FrameMenu.svelte';
  import ShelfBundle from './ShelfBundle.svelte';
  import ShelfFrame from './ShelfFrame.svelte';
  import ShelfScenes from './ShelfScenes.svelte';
  import { dropBeside, shelfEntries, stepOf, type BundleEntry, type ShelfDrop } from './shelf-list';
  import { ShelfLook } from './shelf-look.svelte';

  interface Props {
    session: EditorSession;
    onbring: () => void;
    /** It needs another width: for names alone, or for pictures. */
    onsize: (isSmall: boolean) => void;
  }
  let { session, onbring, onsize }: Props = $props();

  // svelte-ignore state_referenced_locally
  const look = new ShelfLook(session.piece.head.id);

  let menu: { id: string; anchor: HTMLElement } | null = $state(null);
  let bundleMenu: { bundle: string; anchor: HTMLElement } | null = $state(null);
  let renaming: string | null = $state(null);
  let drop: ShelfDrop | null = $state(null);
  let dragged: readonly string[] = [];
  let isBundleDragged = false;

  const frames = $derived(session.program.frames);
  const bundles = $derived(session.piece.head.bundles ?? {});
  /** A bundle that is gone is none. */
  const bundleOf = (id: string): string | null => {
    const bundle = session.piece.scenes.get(id)?.bundle;
    return bundle !== undefined && bundles[bundle] ? bundle : null;
  };
  const entries = $derived(shelfEntries(frames, bundleOf, look.folded, look.folded.size ? session.sceneId : null));
  const byKey = $derived(new Map(entries.map((entry) => [entry.key, entry])));

  const worst = $derived.by(() => {
    const found = new Map<string, 'must' | 'look'>();
    for (const finding of session.findings)
      if (finding.place.scene !== null && finding.severity !== 'note' && found.get(finding.place.scene) !== 'must')
        found.set(finding.place.scene, finding.severity);
    return found;
  });
  const worstOf = (ids: readonly string[]) => {
    const all = ids.map((id) => worst.get(id));
    return all.find((one) => one === 'must') ?? all.find((one) => one === 'look');
  };

  function pick(id: string, event: MouseEvent) {
    if (event.shiftKey && session.sceneId) {
      const [a, b] = [frames.indexOf(session.sceneId), frames.indexOf(id)].sort((x, y) => x - y) as [number, number];
      session.frameSelection = frames.slice(a, b + 1);
    } else if (event.ctrlKey || event.metaKey) {
      const chosen = session.frameSelection.includes(id) ? session.frameSelection.filter((other) => other !== id) : [...session.frameSelection, id];
      session.frameSelection = chosen.length ? chosen : [id];
    } else session.openScene(id);
  }

  const chosenWith = (id: string): readonly string[] => (session.frameSelection.includes(id) ? [...session.frameSelection] : [id]);

  function fold(entry: BundleEntry, all: boolean) {
    look.fold(all ? Object.keys(bundles) : [entry.bundle!], !entry.isFolded);
  }

  function over(id: string, isUpper: boolean) {
    if (!dragged.length) return;
    if (!isBundleDragged) return void (drop = dropBeside(frames, bundleOf, id, isUpper));
    // A bundle goes before or after another one, as a whole.
    const run = entries.find((entry): entry is BundleEntry => entry.kind === 'bundle' && entry.frames.includes(id))?.frames ?? [id];
    const [first, last] = [run[0]!, run.at(-1)!];
    const before = run.indexOf(id) < run.length / 2 ? first : (frames[frames.indexOf(last) + 1] ?? null);
    drop = { at: before === first ? first : last, side: before === first ? 'before' : 'after', before, bundle: bundleOf(dragged[0]!) };
  }

  function overBundle({ key, bundle, frames: run }: BundleEntry) {
    if (dragged.length) drop = { at: key, side: 'in', before: run[0]!, bundle: isBundleDragged ? bundleOf(dragged[0]!) : bundle };
  }

  function end() {
    [drop, dragged, isBundleDragged] = [null, [], false];
  }

  function dropped(event: DragEvent) {
    if (!drop || !dragged.length) return;
    event.preventDefault();
    event.stopPropagation();
    putFrames(session, dragged, drop.before, drop.bundle);
    end();
  }

  /** Alt and an arrow move what is chosen. */
  function step(id: string, event: KeyboardEvent) {
    if (!event.altKey || !session.canEdit || (event.key !== 'ArrowUp' && event.key !== 'ArrowDown')) return;
    event.preventDefault();
    event.stopPropagation();
    const chosen = chosenWith(id);
    const to = stepOf(frames, bundleOf, chosen, event.key === 'ArrowUp' ? -1 : 1);
    if (to) putFrames(session, chosen, to.before, to.bundle);
  }
</script>

<nav
  class="scroll flex min-h-0 flex-col items-center {look.isSmall ? 'gap-0.5' : 'gap-2'} border-r border-[var(--line)] bg-[var(--rim)] py-2"
  aria-label="Frames"
  ondragover={(event) => {
    if (dragged.length) event.preventDefault();
  }}
  ondrop={dropped}
>
  <button
    class="soft w-full shrink-0 truncate px-1 text-center text-[12px] underline"
    title={look.isSmall ? 'Show frames as pictures' : 'Show frames by name alone'}
    onclick={() => {
      look.size(!look.isSmall);
      onsize(look.isSmall);
    }}>{look.isSmall ? 'pictures' : 'names'}</button
  >
  <Windowed list={entries.map(({ key }) => key)} size={look.isSmall ? 24 : 6} height={look.isSmall ? 26 : 102} keep={session.sceneId}>
    {#snippet entry(key)}
      {@const one = byKey.get(key)}
      {#if one?.kind === 'bundle'}
        <ShelfBundle
          {session}
          entry={one}
          worst={worstOf(one.frames)}
          dropsIn={drop?.at === key}
          bind:renaming
          onfold={(all) => fold(one, all)}
          onmenu={(anchor) => (bundleMenu = { bundle: one.bundle!, anchor })}
          ondrag={() => ([dragged, isBundleDragged] = [[...one.frames], true])}
          ondragover={() => overBundle(one)}
          ondragend={end}
        />
      {:else if one}
        <ShelfFrame
          {session}
          id={key}
          place={one.place}
          isSmall={look.isSmall}
          worst={worst.get(key)}
          drops={drop?.at === key ? drop.side : null}
          bind:renaming
          onpick={(event) => pick(key, event)}
          onmenu={(anchor) => (menu = { id: key, anchor })}
          onstep={(event) => step(key, event)}
          ondrag={() => ([dragged, isBundleDragged] = [chosenWith(key), false])}
          ondragover={(isUpper) => over(key, isUpper)}
          ondragend={end}
        />
      {/if}
    {/snippet}
  </Windowed>
  {#if session.canEdit}
    <button
      class="grid h-11 w-[56px] shrink-0 place-items-center rounded-md border border-dashed border-[var(--soft)] text-[18px] text-[var(--soft)] hover:border-[var(--gold)]"
      aria-label="New frame"
      title="New frame"
      onclick={() => addFrame(session)}>+</button
    >
    <button class="soft shrink-0 text-center text-[12px] leading-tight underline" onclick={onbring}>bring in pages</button>
  {/if}
  <ShelfScenes {session} use="sheet" />
  <ShelfScenes {session} use="part" />
</nav>

{#if menu}
  <FrameMenu {session} id={menu.id} anchor={menu.anchor} onrename={(id) => (renaming = id)} onclose={() => (menu = null)} />
{/if}

{#if bundleMenu}
  {@const { bundle, anchor } = bundleMenu}
  <Popover {anchor} label={bundles[bundle]?.name ?? ''} onclose={() => (bundleMenu = null)} width={190}>
    {#if session.canEdit}<button class="menu-row" onclick={() => ((renaming = bundle), (bundleMenu = null))}>Rename</button>{/if}
    <button class="menu-row" onclick={() => (look.fold(Object.keys(bundles), true), (bundleMenu = null))}>Fold all bundles</button>
    <button class="menu-row" onclick={() => (look.fold(Object.keys(bundles), false), (bundleMenu = null))}>Unfold all bundles</button>
    <button class="menu-row" onclick={() => ((session.frameSelection = frames.filter((id) => bundleOf(id) === bundle)), (bundleMenu = null))}
      >Choose its frames</button
    >
    {#if session.canEdit}<button class="menu-row text-[var(--brick-text)]" onclick={() => (takeApart(session, bundle), (bundleMenu = null))}
        >Take apart (frames stay)</button
      >{/if}
  </Popover>
{/if}
