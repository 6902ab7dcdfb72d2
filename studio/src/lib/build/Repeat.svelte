<script lang="ts">
  import { framesOf, namedAfterFrames, namedByWords, repeatLayer, type Operation } from '@zany/core';
  import { untrack } from 'svelte';
  import { newId } from '$lib/client/ids';
  import type { EditorSession } from '$lib/client/session.svelte';
  import { takeFocus } from '$lib/shared/focus';
  import { freshLook } from './acts';
  import { wordsWritten } from './written';

  /** One layer as a row or grid of equal ones, seen on the stage before it is made; as tabs it is named after the frames and leads to them. */
  let { session }: { session: EditorSession } = $props();

  // svelte-ignore state_referenced_locally
  const id = session.selection[0]!;
  // svelte-ignore state_referenced_locally
  const base = session.plain;
  // svelte-ignore state_referenced_locally
  const scene = session.sceneId!;
  // svelte-ignore state_referenced_locally
  const box = session.scene!.byId.get(id)!.box;
  // svelte-ignore state_referenced_locally
  const all = framesOf(session.piece);
  // svelte-ignore state_referenced_locally
  const chosen = session.frameSelection.length > 1 ? all.filter((frame) => session.frameSelection.includes(frame.id)) : all;
  const others = chosen.filter((frame) => frame.id !== scene);

  // svelte-ignore state_referenced_locally
  const sceneWidth = session.scene!.scene.width;
  let written = $state('');
  let across = $state(Math.max(1, Math.floor((sceneWidth - box.x) / (box.width + 8))));
  let down = $state(1);
  let gap = $state(8);
  let fill = $state(false);
  /** Frames that there is one for each of: tabs for all, or a menu for all but the one it is on. */
  let target: 'all' | 'others' | null = $state(null);
  const frames = $derived(target === 'all' ? chosen : target === 'others' ? others : null);
  let marks = $state(true);
  /** A menu has no entry for the frame that is open. */
  const mark = $derived(marks && target === 'all');

  /** Ids are made once for each place, so that what is previewed is what is made. */
  const ids: string[] = [];
  const makeIds = () => {
    let n = 0;
    return () => (ids[n++] ??= newId());
  };

  const operations = $derived.by((): Operation[] => {
    const makeId = makeIds();
    const [columns, rows] = !frames ? [across, down] : isMenu ? [1, frames.length] : [frames.length, 1];
    const isFilled = frames ? !isMenu : fill;
    const width = isFilled ? Math.max(columns, sceneWidth - box.x * 2) : null;
    const repeated = repeatLayer(base, scene, id, { across: columns, down: rows, gapX: gap, gapY: gap, fill: width, count }, makeId);
    const layer = base.piece.layers.get(id)!;
    if (!frames) return [...repeated.operations, ...namedByWords(base.piece, repeated.ids, words, id)];
    const look: Operation[] =
      mark && !layer.looks?.selected
        ? repeated.ids.map((one) => ({
            op: 'set',
            table: 'layers',
            id: one,
            path: ['looks', 'selected'],
            value: freshLook(base.piece, layer, 'selected', 'rest'),
          }))
        : [];
    return [...repeated.operations, ...namedAfterFrames(base.piece, repeated.ids, frames, mark, makeId), ...look];
  });

  $effect(() => {
    const now = operations;
    untrack(() => session.preview(now, 'plain'));
    return () => untrack(() => session.preview(null));
  });

  /** Words with commas between them: one layer for each, with its name and text. */
  const words = $derived(wordsWritten(written));

  /** `3`, `3 x 2`, or words. */
  function write(event: Event) {
    written = (event.currentTarget as HTMLInputElement).value;
    const grid = /^\s*(\d{1,2})(?:\s*[x×*]\s*(\d{1,2}))?\s*$/i.exec(written);
    if (grid) [across, down] = [Math.max(1, Math.min(50, Number(grid[1]))), Math.max(1, Math.min(50, Number(grid[2] ?? 1)))];
    else if (words.length) isColumn ? ([across, down] = [1, words.length]) : ([across, down] = [words.length, 1]);
  }
  const isColumn = $derived(box.width > sceneWidth * 0.6);
  const isMenu = $derived(target === 'others' && isColumn);

  /** As many as there are words, whatever the grid. */
  const count = $derived(frames ? frames.length : words.length || across * down);

  /** With words the other number of the grid follows, so that none is left out. */
  function shape(which: 'across' | 'down', to: number) {
    if (which === 'across') across = to;
    else down = to;
    const needed = words.length;
    if (needed) which === 'across' ? (down = Math.ceil(needed / to)) : (across = Math.ceil(needed / to));
  }

  function apply() {
    const made = operations;
    const made_ids = [id, ...made.flatMap((one) => (one.op === 'put' && one.table === 'layers' ? [one.value.id] : []))];
    session.panel = null;
    if (session.edit(`Repeat ${count} times`, made, 'plain'))
      session.select([...new Set(made_ids)].filter((one) => session.piece.layers.get(one)?.parent === null));
  }
  const close = () => (session.panel = null);
  const number = (event: Event, most: number, least = 1) =>
    Math.max(least, Math.min(most, Math.round((event.currentTarget as HTMLInputElement).valueAsNumber || least)));
</script>

<div class="flex min-h-0 flex-1 flex-col gap-2.5" role="dialog" aria-label="Repeat">
  <h3 class="text-[15px]">Repeat {session.piece.layers.get(id)?.name}</h3>
  {#if all.length > 1}
    <div class="flex flex-wrap gap-1" role="group" aria-label="What for">
      <button class="chip {target === null ? 'chip-on' : ''}" aria-pressed={target === null} onclick={() => (target = null)}>a row or grid</button>
      <button class="chip {target === 'all' ? 'chip-on' : ''}" aria-pressed={target === 'all'} onclick={() => (target = 'all')}
        >one for each of {chosen.length} frames</button
      >
      {#if others.length > 1 && others.length < chosen.length}
        <button class="chip {target === 'others' ? 'chip-on' : ''}" aria-pressed={target === 'others'} onclick={() => (target = 'others')}
          >one for each of the {others.length} others</button
        >
      {/if}
    </div>
  {/if}
  {#if frames}
    <p class="soft">{isMenu ? 'Below each other' : 'Spread evenly'}, named after the frames and leading to them.</p>
    {#if target === 'all'}<label class="flex items-center gap-2"
        ><input type="checkbox" class="checkbox checkbox-xs" bind:checked={marks} />mark the open one as selected</label
      >{/if}
  {:else}
    <input
      class="field w-full"
      placeholder="3, or 3 × 2, or: Boats, Fares, Tides"
      aria-label="How many, or their words"
      value={written}
      oninput={write}
      onkeydown={(event) => {
        event.stopPropagation();
        if (event.key === 'Enter') apply();
        if (event.key === 'Escape') close();
      }}
      use:takeFocus
    />
    <div class="flex flex-wrap items-center gap-1.5">
      <input
        class="field w-14"
        type="number"
        min="1"
        max="50"
        value={across}
        aria-label="Across"
        onchange={(event) => shape('across', number(event, 50))}
      />
      <span class="soft">across,</span>
      <input
        class="field w-14"
        type="number"
        min="1"
        max="50"
        value={down}
        aria-label="Down"
        onchange={(event) => shape('down', number(event, 50))}
      />
      <span class="soft">down</span>
    </div>
    <label class="flex items-center gap-2"
      ><input type="checkbox" class="checkbox checkbox-xs" bind:checked={fill} />as wide as the scene, with equal edges</label
    >
  {/if}
  <label class="flex items-center gap-1.5"
    ><span class="soft">with</span><input
      class="field w-14"
      type="number"
      min="0"
      max="500"
      value={gap}
      aria-label="Gap"
      onchange={(event) => (gap = number(event, 500, 0))}
    /><span class="soft">px between</span></label
  >
  <div class="flex gap-2">
    <button class="act act-go" onclick={apply}>Make {count}</button><button class="act act-plain" onclick={close}>Not now</button>
  </div>
</div>
