<script lang="ts">
  import {
    buttonsAndPanels,
    count,
    cutText,
    framesOf,
    newFrame,
    pagesFor,
    pairByHand,
    pairWith,
    selectedWhile,
    showWhileSelected,
    statesOf,
    wireTo,
    wireToLabel,
    wireToState,
    writtenIn,
    type Layer,
    type Operation,
    type Paired,
    type Partner,
  } from '@zany/core';
  import ChipMenu from '$lib/shared/ChipMenu.svelte';
  import Thumb from '$lib/shared/Thumb.svelte';
  import { newId } from '$lib/client/ids';
  import type { EditorSession } from '$lib/client/session.svelte';
  import { takeFocus } from '$lib/shared/focus';
  import { boxed, bundleNamed, choiceOperations, lookOperations, looksLeft, selectedLooks } from './acts';

  let { session }: { session: EditorSession } = $props();

  type Mode = 'frames' | 'states' | 'labels' | 'panels' | 'pages';
  const DRAFT = 'new draft';
  const frames = $derived(framesOf(session.piece));

  /** What is selected; of one group, what is in it. */
  const chosen = (): Layer[] => {
    const items = session.selection.flatMap((id) => session.scene?.byId.get(id) ?? []);
    const [only] = items;
    return boxed(items.length === 1 && only?.layer.type === 'group' ? only.children.filter((child) => !child.layer.locked) : items);
  };

  const halves = buttonsAndPanels(chosen());
  const states = $derived(session.scene ? statesOf(session.scene.scene) : []);
  const labels = $derived(
    Object.entries(session.scene?.scene.timeline?.labels ?? {})
      .sort(([, a], [, b]) => a.time - b.time)
      .map(([id, { name }]) => ({ id, name }))
  );
  const modes = $derived<readonly { id: Mode; label: string; on: boolean }[]>([
    { id: 'frames', label: 'lead to frames', on: true },
    { id: 'states', label: 'bring into states', on: states.length > 1 },
    { id: 'labels', label: 'play from labels', on: labels.length > 0 },
    { id: 'panels', label: 'show one at a time', on: halves !== null },
    { id: 'pages', label: 'a page for each', on: frames.length > 1 },
  ]);
  const wholeGroups = halves?.panels.every((layer) => layer.type === 'group' || layer.type === 'placement') ?? false;

  /** Frames chosen in the shelf, if more than one; else all that follow this one, then those before. */
  function candidates() {
    const here = frames.findIndex((frame) => frame.id === session.sceneId);
    const chosen = frames.filter((frame) => session.frameSelection.includes(frame.id) && frame.id !== session.sceneId);
    return chosen.length > 1 ? chosen : [...frames.slice(here + 1), ...frames.slice(0, Math.max(0, here))];
  }

  /** What there is to pair with, in order, with what is written there. */
  function partnersFor(wanted: Mode): readonly Partner[] {
    if (wanted === 'states') return states;
    if (wanted === 'labels') return labels;
    if (wanted === 'panels') return sortedPanels();
    return candidates().map(({ id, name }) => ({ id, name, words: writtenIn(session.plain.piece, id) }));
  }

  /** Where pages are counted off and run out, the rest gets drafts; where names tell, what no name fits is left open. */
  function find(wanted: Mode): Paired[] {
    const pairs = pairWith(session.plain.piece, wanted === 'panels' ? halves!.buttons : chosen(), partnersFor(wanted));
    return wanted === 'frames' && pairs.every(({ by }) => by !== 'name') ? pairs.map(drafted) : pairs;
  }
  const drafted = (pair: Paired): Paired => (pair.partner === null ? { ...pair, partner: DRAFT } : pair);

  /** Panels by their place: across where they stand in a row. */
  const sortedPanels = () => [...halves!.panels].sort((a, b) => a.pose.y - b.pose.y || a.pose.x - b.pose.x);

  /** What most of their names fit; frames where that is no matter. */
  function likeliest(): Mode {
    if (wholeGroups) return 'panels';
    const fitting = (wanted: Mode) => find(wanted).filter(({ by }) => by === 'name').length;
    return modes
      .filter(({ id, on }) => on && (id === 'states' || id === 'labels'))
      .reduce<Mode>((best, { id }) => (fitting(id) > fitting(best) ? id : best), 'frames');
  }

  let mode = $state<Mode>(likeliest());
  // svelte-ignore state_referenced_locally
  let pairs: Paired[] = $state.raw(find(mode));
  let template: string | null = $state(candidates()[0]?.id ?? null);
  let dragged: string | null = null;

  function turn(to: Mode) {
    mode = to;
    pairs = find(to);
  }

  const options = $derived(
    mode === 'states' || mode === 'labels'
      ? [...(mode === 'states' ? states : labels).map(({ id, name }) => ({ value: id, label: name })), { value: '', label: 'leave it' }]
      : mode === 'panels'
        ? [...halves!.panels.map((panel) => ({ value: panel.id, label: panel.name })), { value: '', label: 'leave it' }]
        : [
            ...frames.map((frame) => ({ value: frame.id, label: frame.name })),
            { value: DRAFT, label: 'a new draft frame' },
            { value: '', label: 'leave it' },
          ]
  );
  const nameOf = (partner: string | null) => options.find((option) => option.value === (partner ?? ''))?.label ?? 'leave it';
  const partnerWord: Record<Mode, string> = { frames: 'Frame', states: 'State', labels: 'Label', panels: 'Layer', pages: 'Page' };

  const change = (layer: string, partner: string) => (pairs = pairByHand(pairs, layer, partner || null, partnersFor(mode)));
  const open = $derived(pairs.filter(({ partner, by }) => partner === null && by !== 'hand').length);

  /** Two pairs change partners. */
  function swap(a: string, b: string) {
    const [one, other] = [pairs.find((pair) => pair.layer === a), pairs.find((pair) => pair.layer === b)];
    if (!one || !other || a === b) return;
    pairs = pairs.map((pair) =>
      pair === one ? { ...one, partner: other.partner, by: 'hand' } : pair === other ? { ...other, partner: one.partner, by: 'hand' } : pair
    );
  }

  function leadOperations(): Operation[] {
    return pairs.flatMap(({ layer, partner }): Operation[] => {
      if (partner === null) return [];
      if (partner !== DRAFT) return wireTo(session.piece, [layer], partner, newId);
      const id = newId();
      const found = session.piece.layers.get(layer);
      const name = found?.text ?? found?.name ?? 'Frame';
      return [...newFrame(session.piece, id, { name: cutText(`${name} page`, 110), draft: true }), ...wireTo(session.piece, [layer], id, newId)];
    });
  }

  /** Whether each layer is seen as selected while what it leads to is shown. */
  let marks = $state(false);
  /** Whether each is to be seen hovered and pressed. */
  let looks = $state(false);

  function wired(wire: typeof wireToLabel, property: 'state' | 'section'): Operation[] {
    const scene = session.sceneId!;
    const matched = pairs.flatMap(({ layer, partner }) => (partner === null ? [] : [{ layer, partner }]));
    return [
      ...matched.flatMap(({ layer, partner }) => [
        ...wire(session.piece, layer, undefined, partner, newId),
        ...(marks ? selectedWhile(scene, layer, property, partner) : []),
      ]),
      ...(marks
        ? selectedLooks(
            session,
            matched.map(({ layer }) => layer)
          )
        : []),
    ];
  }

  function panelOperations(): Operation[] {
    const matched = pairs.filter((pair) => pair.partner !== null);
    return [
      ...choiceOperations(
        session,
        matched.map((pair) => pair.layer),
        'unselects',
        false
      ),
      ...matched.flatMap(({ layer, partner }) => showWhileSelected(partner!, layer)),
    ];
  }

  function pageOperations(): Operation[] {
    if (template === null) return [];
    const page = session.piece.scenes.get(template)!;
    const bundle = page.bundle ? { id: page.bundle, operations: [] } : bundleNamed(session, `${session.scene!.scene.name} pages`);
    return [...bundle.operations, ...pagesFor(session.piece, chosen(), template, bundle.id, newId)];
  }

  function apply() {
    const made: Record<Mode, () => Operation[]> = {
      frames: leadOperations,
      states: () => wired(wireToState, 'state'),
      labels: () => wired(wireToLabel, 'section'),
      panels: panelOperations,
      pages: pageOperations,
    };
    const paired = pairs.flatMap(({ layer, partner }) => (partner === null ? [] : (session.piece.layers.get(layer) ?? [])));
    const operations = [...made[mode](), ...(looks && hasLooks ? lookOperations(session.piece, paired, ['hover', 'press']) : [])];
    session.panel = null;
    session.edit(mode === 'pages' ? `Make ${pairs.length} pages` : `Pair up ${count(paired.length, 'layer')}`, operations, 'plain');
  }

  /** Whether some of those that lead somewhere look alike, hovered and pressed. */
  const hasLooks = $derived(
    mode !== 'pages' &&
      pairs.some(({ layer: id }) => {
        const layer = session.piece.layers.get(id);
        return layer !== undefined && looksLeft(layer, ['hover', 'press']).length > 0;
      })
  );

  const close = () => (session.panel = null);
  const sentences: Record<Mode, string> = {
    frames:
      'By names and words where they fit, else by place on the page and frame order. Choose one and the rest follows; drag a line onto another to swap them.',
    states: 'A press on each brings the scene into its state.',
    labels: 'A press on each plays its section.',
    panels: 'A press shows one and hides the others; a second press hides it again. Nothing is shown at first.',
    pages: 'The page of the first is copied for the others, each with its own picture and title; every one leads to its page.',
  };
</script>

<div class="flex min-h-0 flex-1 flex-col gap-2" role="dialog" aria-label="Pair up">
  <h3 class="text-[15px]">Pair up {pairs.length} layers</h3>
  <div class="flex flex-wrap gap-1" role="group" aria-label="How they are paired">
    {#each modes.filter((one) => one.on) as { id, label } (id)}
      <button class="chip {mode === id ? 'chip-on' : ''}" aria-pressed={mode === id} onclick={() => turn(id)}>{label}</button>
    {/each}
  </div>
  <p class="soft">{sentences[mode]}</p>
  {#if mode === 'pages'}
    <div class="flex items-center gap-2">
      <span class="soft">the page of the first is</span>
      <ChipMenu
        name="Page of the first"
        label={session.piece.scenes.get(template ?? '')?.name ?? 'choose'}
        tone="chip-gold"
        options={candidates().map((frame) => ({ value: frame.id, label: frame.name }))}
        filter
        onpick={(id) => (template = id)}
      />
    </div>
  {:else}
    <div class="scroll flex min-h-0 flex-col gap-1.5">
      {#each pairs as pair (pair.layer)}
        {@const name = session.piece.layers.get(pair.layer)?.name}
        <div
          class="flex cursor-grab items-center gap-2"
          role="group"
          aria-label={name}
          draggable="true"
          ondragstart={() => (dragged = pair.layer)}
          ondragover={(event) => dragged !== null && event.preventDefault()}
          ondrop={(event) => {
            event.preventDefault();
            if (dragged !== null) swap(dragged, pair.layer);
            dragged = null;
          }}
          onpointerenter={() => (session.lit = [pair.layer, ...(mode === 'panels' && pair.partner ? [pair.partner] : [])])}
          onpointerleave={() => (session.lit = [])}
        >
          <span class="w-20 shrink-0 truncate">{session.piece.layers.get(pair.layer)?.text || name}</span>
          <span class="font-bold text-[var(--gold)]">→</span>
          {#if mode === 'frames' && pair.partner && pair.partner !== DRAFT}<span class="border border-[var(--line)]"
              ><Thumb scene={session.program.scenes.get(pair.partner) ?? null} assetUrl={session.assetUrl} width={22} height={30} radius={2} /></span
            >{/if}
          <ChipMenu
            name="{partnerWord[mode]} for {name}"
            label={pair.partner === null && pair.by === null ? 'no name fits' : nameOf(pair.partner)}
            tone={pair.partner ? 'chip-gold' : 'chip-ghost'}
            {options}
            filter
            onpick={(partner) => change(pair.layer, partner)}
          />
        </div>
      {/each}
    </div>
  {/if}
  {#if mode === 'labels' || mode === 'states'}
    <label class="flex items-center gap-2"
      ><input type="checkbox" class="checkbox checkbox-xs" bind:checked={marks} /> and is seen as selected while its {mode === 'labels'
        ? 'section'
        : 'state'} is shown</label
    >
  {/if}
  {#if hasLooks}
    <label class="flex items-center gap-2"
      ><input type="checkbox" class="checkbox checkbox-xs" bind:checked={looks} /> with hover and press looks</label
    >
  {/if}
  {#if open && mode === 'frames'}
    <button class="chip self-start" onclick={() => (pairs = pairs.map((pair) => (pair.by === 'hand' ? pair : drafted(pair))))}
      >new drafts for the {open} open</button
    >
  {/if}
  <div class="flex gap-2">
    <button class="act act-go" onclick={apply} use:takeFocus>Apply</button><button class="act act-plain" onclick={close}>Not now</button>
  </div>
</div>
