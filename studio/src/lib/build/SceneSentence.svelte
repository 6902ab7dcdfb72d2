<script lang="ts">
  import { carry, MOST_NOTE, placementsOf, scenesOf, type SceneProgram } from '@zany/core';
  import ChipMenu from '$lib/shared/ChipMenu.svelte';
  import type { EditorSession } from '$lib/client/session.svelte';
  import { setBundle, setKind, kindsFor } from './acts';
  import CarrierChip from './CarrierChip.svelte';
  import NoteText from './NoteText.svelte';
  import NumberField from './NumberField.svelte';
  import PaintChip from './PaintChip.svelte';
  import WordChip from './WordChip.svelte';

  /** What the open scene is, as a sentence of chips: size, ground, kind, bundle, what happens when it is entered again. */
  let { session, scene }: { session: EditorSession; scene: SceneProgram } = $props();

  const { id } = $derived(scene.scene);
  const own = $derived(scene.scene);
  const { head } = $derived(session.piece);
  const chosen = $derived(session.frameSelection.length > 1 ? session.frameSelection : [id]);
  const kind = $derived(own.kind === undefined ? undefined : head.kinds?.[own.kind]);
  const bundle = $derived(own.bundle === undefined ? undefined : head.bundles?.[own.bundle]);
  const kinds = $derived(kindsFor(session));
  const sheets = $derived(scenesOf(session.piece, 'sheet').filter((sheet) => !own.carries?.some((one) => one.sheet === sheet.id)));
  const used = $derived(own.use === 'part' ? placementsOf(session.piece, id) : []);

  /** The scene whose note is being written: it gets what was written, also where another one is opened meanwhile. */
  let noted: string | null = $state(null);

  const set = (name: string, path: string, value: unknown, of = id) =>
    session.edit(name, [{ op: 'set', table: 'scenes', id: of, path: [path], ...(value !== undefined && { value }) }], 'plain');

  const resize = (path: 'width' | 'height', value: number | undefined) =>
    value !== undefined && set('Change the size', path, Math.max(1, Math.min(20_000, Math.round(value))));
  const scrollTo = (value: number | undefined) =>
    set('How far it scrolls', 'contentHeight', value !== undefined && value > own.height ? Math.min(100_000, Math.round(value)) : undefined);
</script>

<div class="flex flex-wrap items-center gap-1 leading-[22px]" role="group" aria-label="About {own.name}">
  <NumberField value={own.width} label="Width" onset={(value) => resize('width', value)} />
  <span class="soft">×</span>
  <NumberField value={own.height} label="Height" onset={(value) => resize('height', value)} />
  <span class="chip" title="Ground"
    ><PaintChip {session} label="Ground" paint={own.background} onpick={(paint) => set('Change the ground', 'background', paint)}>
      {#snippet sign(color)}<span class="flex items-center gap-1"
          ><span class="h-3 w-3 rounded-sm border border-[var(--line)]" style:background={color}></span>ground</span
        >{/snippet}
    </PaintChip></span
  >
  {#if own.use !== 'part'}
    <span class="soft">scrolls down to</span>
    <NumberField value={own.contentHeight} empty={String(own.height)} label="Scrolls down to" onset={scrollTo} />
  {/if}
  {#if own.use === 'frame'}
    <span class="soft">kind</span>
    <WordChip
      name="Kind"
      label={kind ? `${kind.mark} ${kind.name}` : 'none'}
      tone={kind ? '' : 'chip-ghost'}
      words={kinds.map((one) => ({ word: one.name, mark: one.mark, color: one.color }))}
      none="no kind"
      fresh="a new kind"
      onpick={(name) => setKind(session, chosen, name)}
    />
    <span class="soft">bundle</span>
    <WordChip
      name="Bundle"
      label={bundle?.name ?? 'none'}
      tone={bundle ? '' : 'chip-ghost'}
      words={Object.values(head.bundles ?? {}).map((one) => ({ word: one.name }))}
      none="no bundle"
      fresh="a new bundle"
      onpick={(name) => setBundle(session, chosen, name)}
    />
    {#if sheets.length}<ChipMenu
        name="Carry a sheet"
        label="+ sheet"
        tone="chip-ghost"
        options={sheets.map((sheet) => ({ value: sheet.id, label: sheet.name }))}
        onpick={(sheet) => session.edit('Carry a sheet', carry(session.piece, id, sheet, 'over'), 'plain')}
      />{/if}
  {:else if own.use === 'sheet'}
    <span class="soft">carried</span>
    <CarrierChip {session} sheet={id} />
  {:else}
    <ChipMenu
      name="Where it is placed"
      label={used.length === 1 ? 'placed once' : `placed ${used.length} times`}
      options={used.map((layer) => ({ value: layer.id, label: layer.name, hint: session.piece.scenes.get(layer.scene)?.name ?? '' }))}
      onpick={(layer) => {
        session.openScene(session.piece.layers.get(layer)!.scene);
        session.select([layer]);
      }}
    />
  {/if}
  <button
    class="chip chip-ghost"
    title="What happens when it is entered again"
    onclick={() => set('Entered again', 'onReturn', own.onReturn === 'remember' ? undefined : 'remember')}
    >{own.onReturn === 'remember' ? 'remembers' : 'starts over'} when entered again</button
  >
  {#if own.note === undefined && noted !== id}
    <button class="chip chip-ghost" title="What whoever builds it should know" onclick={() => (noted = id)}>note</button>
  {/if}
  <NoteText
    note={own.note}
    label="Note of {own.name}"
    most={MOST_NOTE}
    canEdit={session.canEdit}
    bind:writing={() => noted === id, (isOn) => (noted = isOn ? id : null)}
    onkeep={(note) => set('Note', 'note', note || undefined, noted ?? id)}
  />
</div>
