<script lang="ts">
  import { isByPointer } from '$lib/shared/focus';
  import RenameField from '$lib/shared/RenameField.svelte';
  import { later } from '$lib/shared/later.svelte';
  import { recycler } from '$lib/shared/recycle';
  import { awayWords, layersUnder, moveInto, scopeOf, type Item } from '@zany/core';
  import type { EditorSession } from '$lib/client/session.svelte';
  import { bindState, setFrame, sheetOrder } from './acts';
  import BindingRow from './BindingRow.svelte';
  import LayerRow from './LayerRow.svelte';
  import LineInput from './LineInput.svelte';
  import ThreadRow from './ThreadRow.svelte';
  import SelectionCard from './SelectionCard.svelte';
  import SceneSentence from './SceneSentence.svelte';
  import SheetRows from './SheetRows.svelte';
  import PieceThreads from './PieceThreads.svelte';

  let { session, finder = $bindable() }: { session: EditorSession; finder?: HTMLInputElement | undefined } = $props();

  type Filter = 'all' | 'wired' | 'unwired' | 'loose ends';
  let filter: Filter = $state('all');
  let find = $state('');
  let renaming = $state(false);
  let dropAt: { id: string; above: boolean } | null = $state(null);

  /** The same as long as nobody changes it, so that rows need not ask again at every edit. */
  const timeline = $derived(session.timeline);
  /** In time the rows speak of the layers themselves: they do not change as the playhead moves. */
  const scene = $derived(timeline ? session.sceneAtRest : session.sceneToRead);
  const moment = $derived(session.moment);
  const fired = $derived(new Set((session.trying ? session.ledger[0]?.fired : undefined)?.map((one) => one.thread) ?? []));
  const loose = $derived(
    new Set(session.findings.filter((found) => found.place.scene === session.sceneId && found.place.layer).map((found) => found.place.layer!))
  );

  /** The same list as long as no layer and no thread changes: what is pulled in time passes the rows by. */
  const items = $derived(scene?.items);
  const rows = $derived(sheetOrder(items ?? []));
  /** What is said of layers that are away just now; null where all of them are always there. */
  const awayOf = $derived(timeline?.spans && moment !== null ? (id: string) => awayWords(timeline, id, moment) : null);

  const fits: Record<Filter, (item: Item) => boolean> = {
    all: () => true,
    wired: (item) => item.threads.length > 0,
    unwired: (item) => item.threads.length === 0 && item.layer.type !== 'picture',
    'loose ends': (item) => loose.has(item.layer.id),
  };
  const counts = $derived({
    all: rows.length,
    wired: rows.filter(({ item }) => fits.wired(item)).length,
    unwired: rows.filter(({ item }) => fits.unwired(item)).length,
    'loose ends': loose.size,
  });
  const fitting = $derived(rows.filter(({ item }) => fits[filter](item) && item.layer.name.toLowerCase().includes(find.trim().toLowerCase())));

  /** How many layers are in each group, however deep. */
  const inside = $derived.by(() => {
    const found = new Map<string, number>();
    const countIn = ({ layer, children }: Item): number => {
      const all = children.reduce((sum, child) => sum + 1 + countIn(child), 0);
      if (children.length) found.set(layer.id, all);
      return all;
    };
    for (const item of items ?? []) if (!item.parent) countIn(item);
    return found;
  });
  const isFolded = (id: string) => session.foldedGroups.has(id) && inside.has(id);

  function fold(id: string, now = !session.foldedGroups.has(id)) {
    const next = new Set(session.foldedGroups);
    if (now) next.add(id);
    else next.delete(id);
    session.foldedGroups = next;
  }

  /** What is in a folded group is listed only while it is looked for or selected. */
  const listed = $derived.by(() => {
    if (session.foldedGroups.size === 0 || find.trim() || filter !== 'all') return fitting;
    const away = new Set<string>();
    return fitting.filter(({ item: { layer } }) => {
      const isAway = layer.parent !== null && (away.has(layer.parent) || isFolded(layer.parent));
      if (isAway) away.add(layer.id);
      return !isAway || session.selection.includes(layer.id);
    });
  });

  /** As many rows as the sheet shows at once; the rest follow when these are painted. */
  const ROW = 26;
  let room = $state(600);
  const FIRST = $derived(Math.ceil(room / ROW) + 1);
  const whole = later(() => session.sceneId);
  const shown = $derived(
    whole.ready || listed.slice(FIRST).some(({ item }) => session.selection.includes(item.layer.id)) ? listed : listed.slice(0, FIRST)
  );

  /** Rows that are out of view together are not painted. */
  const RUN = 20;
  const runs = $derived(Array.from({ length: Math.ceil(shown.length / RUN) }, (_, r) => shown.slice(r * RUN, (r + 1) * RUN)));

  const recycle = recycler();
  const rowOf = $derived(recycle(shown.map(({ item }) => item.layer.id)));

  function pick(id: string, event: MouseEvent | KeyboardEvent) {
    const { selection } = session;
    if (event.shiftKey && selection.length) {
      const ids = shown.map(({ item }) => item.layer.id);
      const [a, b] = [ids.indexOf(selection.at(-1)!), ids.indexOf(id)].sort((x, y) => x - y) as [number, number];
      session.select([...new Set([...selection, ...ids.slice(Math.max(0, a), b + 1)])]);
    } else if (event.ctrlKey || event.metaKey)
      session.select(selection.includes(id) ? selection.filter((other) => other !== id) : [...selection, id]);
    else session.select([id]);
  }

  /** Arrows move along the rows, as in any tree. */
  function key(event: KeyboardEvent) {
    const { target } = event;
    // A row that was clicked leaves the arrows to what is selected: they move it.
    if (!(target instanceof HTMLElement) || !target.dataset['pick'] || isByPointer()) return;
    const { pick: at } = target.dataset;
    if ((event.key === 'ArrowLeft' || event.key === 'ArrowRight') && inside.has(at!)) {
      event.preventDefault();
      event.stopPropagation();
      return fold(at!, event.key === 'ArrowLeft');
    }
    if (event.key !== 'ArrowDown' && event.key !== 'ArrowUp') return;
    event.preventDefault();
    event.stopPropagation();
    const ids = shown.map(({ item }) => item.layer.id);
    const next = ids[ids.indexOf(target.dataset['pick']) + (event.key === 'ArrowDown' ? 1 : -1)];
    if (next === undefined) return;
    session.select([next]);
    document.querySelector<HTMLElement>(`[data-pick="${next}"]`)?.focus();
  }

  /** The line to write is there whatever the list was narrowed to. */
  $effect(() => {
    if (session.writing !== null && !fitting.some(({ item }) => item.layer.id === session.writing)) [filter, find] = ['all', ''];
  });

  let dragged: string | null = null;

  function over(event: DragEvent) {
    const row = (event.target as HTMLElement).closest<HTMLElement>('[data-row]');
    if (!row || dragged === null) return;
    event.preventDefault();
    const box = row.getBoundingClientRect();
    dropAt = { id: row.dataset['row']!, above: event.clientY < box.top + box.height / 2 };
  }

  /** Puts the dragged layer in front of or behind the row it is let go at, in that row's group. */
  function drop(event: DragEvent) {
    event.preventDefault();
    const target = dropAt && session.piece.layers.get(dropAt.id);
    const moving = dragged;
    const above = dropAt?.above ?? false;
    dropAt = dragged = null;
    if (!target || !moving || moving === target.id || !session.sceneId) return;
    const siblings = layersUnder(session.piece, session.sceneId, target.parent).filter((layer) => layer.id !== moving);
    const at = siblings.findIndex((layer) => layer.id === target.id) + (above ? 1 : 0);
    session.edit('Reorder', moveInto(session.plain, [moving], session.sceneId, target.parent, at), 'plain');
  }
</script>

<section class="flex min-h-0 flex-col bg-[var(--sheet)]" aria-label="Cue sheet">
  {#if scene}
    <header class="flex flex-col gap-2 border-b border-[var(--line)] px-3.5 pb-2 pt-2.5">
      <div class="flex min-h-[26px] items-baseline gap-2">
        {#if renaming}
          <RenameField
            name={scene.scene.name}
            label="Name of the frame"
            class="h-[26px] flex-1 text-[16px]"
            onname={(name) => setFrame(session, scene.scene.id, `Rename ${scene.scene.name}`, 'name', name)}
            onclose={() => (renaming = false)}
          />
        {:else}
          <h2 class="truncate text-[18px]">
            <button title="Double-click to rename" ondblclick={() => session.canEdit && (renaming = true)}>{scene.scene.name}</button>
          </h2>
        {/if}
        <span class="shrink-0 {scene.scene.use === 'frame' ? 'soft' : 'text-[var(--plum)]'}"
          >{scene.scene.use === 'frame' ? `frame ${(session.program.frameAt.get(scene.scene.id) ?? 0) + 1}` : scene.scene.use} · {scene.scene.width} × {scene
            .scene.height}</span
        >
      </div>
      <div class="flex flex-wrap items-center gap-1 [&_.chip]:shrink-0 [&_.chip]:!px-[5px]">
        {#each Object.keys(counts) as Filter[] as name (name)}
          <button
            class="chip {filter === name ? 'chip-on' : name === 'loose ends' && counts[name] ? '!text-[var(--brick-text)]' : ''}"
            aria-pressed={filter === name}
            onclick={() => (filter = name)}>{name} {counts[name]}</button
          >
        {/each}
        <input
          bind:this={finder}
          class="field h-[22px] w-[28px] min-w-[28px] flex-1 !px-1.5"
          placeholder="find /"
          aria-label="Find a layer"
          bind:value={find}
          onkeydown={(event) => {
            event.stopPropagation();
            if (event.key === 'Escape') {
              find = '';
              event.currentTarget.blur();
            }
          }}
        />
      </div>
    </header>
    <div
      class="scroll min-h-0 flex-1 pb-24"
      bind:clientHeight={room}
      role="presentation"
      ondragstart={(event) => (dragged = (event.target as HTMLElement).dataset['row'] ?? null)}
      ondragover={over}
      ondragleave={() => (dropAt = null)}
      ondrop={drop}
      ondragend={() => (dropAt = dragged = null)}
    >
      {#if filter === 'all' || filter === 'wired'}<SheetRows {session} place="over" {fired} />{/if}
      <div
        role={shown.length ? 'tree' : undefined}
        aria-label={shown.length ? 'Layers, frontmost first' : undefined}
        aria-multiselectable={shown.length ? 'true' : undefined}
        tabindex="-1"
        onkeydown={key}
      >
        {#each runs as run, r (r)}
          <div class="[content-visibility:auto]" style:contain-intrinsic-height="auto {run.length * ROW}px">
            {#each run as { item, depth } (rowOf.get(item.layer.id))}
              <div class="relative">
                {#if dropAt?.id === item.layer.id}<span
                    class="pointer-events-none absolute left-2 right-2 z-10 h-0.5 bg-[var(--gold)] {dropAt.above ? 'top-0' : 'bottom-0'}"
                  ></span>{/if}
                <LayerRow
                  {session}
                  {item}
                  {depth}
                  {fired}
                  away={awayOf?.(item.layer.id) ?? null}
                  onpick={(event) => pick(item.layer.id, event)}
                  folded={inside.has(item.layer.id) ? (isFolded(item.layer.id) ? inside.get(item.layer.id)! : 0) : null}
                  onfold={() => fold(item.layer.id)}
                />
              </div>
            {/each}
          </div>
        {/each}
      </div>
      {#if shown.length === 0}
        {#if rows.length === 0}
          <p class="soft px-4 py-5">
            This {scene.scene.use} is empty. Draw a hit area with <kbd>H</kbd> or a box with <kbd>B</kbd>, or drop pictures on the stage.
          </p>
        {:else}<p class="soft px-4 py-3">No layer fits.</p>{/if}
      {/if}
      {#if filter === 'all' || filter === 'wired'}<SheetRows {session} place="under" {fired} />{/if}
      <div class="border-b border-[var(--line)] px-3.5 py-2" role="group" aria-label="Threads of the {scene.scene.use} itself">
        <div class="flex items-center gap-2">
          <span class="h-[14px] w-[11px] rounded-[2px] border border-[var(--soft)]"></span><span class="font-semibold"
            >The {scene.scene.use} itself</span
          ><span class="soft ml-auto text-[12px]">clicks beside all layers, keys, times</span>
        </div>
        <div class="ml-[22px]">
          {#if session.selection.length === 0 && session.canEdit && !session.trying}<div class="my-1.5"><SceneSentence {session} {scene} /></div>{/if}
          {#each scene.threads as thread (thread.id)}<ThreadRow {session} {thread} fired={fired.has(thread.id)} />{/each}
          {#if scene.scene.stateIs !== undefined}<BindingRow
              scope={scopeOf(session.piece, scene.scene.id)}
              what="state"
              value={scene.scene.stateIs}
              canEdit={session.canEdit}
              onchange={(next) => bindState(session, scene.scene.id, next)}
            />{/if}
          {#if session.selection.length === 0 && session.canEdit && !session.trying}<div class="my-1.5">
              <LineInput {session} on="scene" owner={scene.scene.id} />
            </div>{/if}
        </div>
      </div>
      <PieceThreads {session} {fired} />
    </div>
    {#if session.canEdit && !session.trying && session.selection.some((id) => scene.byId.has(id))}<SelectionCard {session} />{/if}
  {:else}
    <p class="soft p-5">No frame yet. Bring in pages by dropping their pictures here, or make a frame in the shelf.</p>
  {/if}
</section>
