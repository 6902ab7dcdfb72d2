<script lang="ts">
  import { getDesk } from '$lib/shared/desk.svelte';
  import RenameField from '$lib/shared/RenameField.svelte';
  import Eye from '@lucide/svelte/icons/eye';
  import EyeOff from '@lucide/svelte/icons/eye-off';
  import Lock from '@lucide/svelte/icons/lock';
  import LockOpen from '@lucide/svelte/icons/lock-open';
  import {
    bindingWords,
    colorOf,
    likelyFrames,
    framesOf,
    parseBinding,
    rules,
    scopeOf,
    wireTo,
    writeThing,
    type Bindable,
    type Item,
  } from '@zany/core';
  import type { EditorSession } from '$lib/client/session.svelte';
  import { newId } from '$lib/client/ids';
  import { addressIn, bind, leaveChoice, openOnClick, setLayer } from './acts';
  import BindingRow from './BindingRow.svelte';
  import LayerMark from './LayerMark.svelte';
  import LineInput from './LineInput.svelte';
  import PlacementFields from './PlacementFields.svelte';
  import ThreadRow from './ThreadRow.svelte';

  interface Props {
    session: EditorSession;
    item: Item;
    depth: number;
    fired: ReadonlySet<string>;
    /** When it is there, where it is away at the moment that is looked at. */
    away: string | null;
    onpick: (event: MouseEvent | KeyboardEvent) => void;
    /** How many layers are in it and not listed; null for what holds none. */
    folded: number | null;
    onfold: () => void;
  }
  let { session, item, depth, fired, away, onpick, folded, onfold }: Props = $props();

  const desk = getDesk();
  const layer = $derived(item.layer);
  const isSelected = $derived(session.selection.includes(layer.id));
  const isOnly = $derived(isSelected && session.selection.length === 1);
  const findings = $derived(session.findingsAt(layer.id));
  /** What is worth a word in the row: notes are for the walk. */
  const told = $derived(findings.filter(({ severity }) => severity !== 'note'));
  const finding = $derived(told[0]);
  const asks = $derived(findings.some((found) => found.rule === 'looks-clickable'));
  const likely = $derived(asks && isOnly ? likelyFrames(session.piece, layer, layer.scene, framesOf(session.piece)).slice(0, 3) : []);
  const scope = $derived(scopeOf(session.piece, layer.scene, layer.id));
  /** What a button is likely to wait for: the first box to tick in its scene. */
  const agreeing = $derived.by(() => {
    const isButton = isOnly && !layer.field && layer.bindings?.enabled === undefined && item.threads.some(({ cue }) => cue.type === 'click');
    const box = isButton ? session.scene?.items.find((one) => one.layer.field?.kind === 'checkbox' || one.layer.field?.kind === 'switch') : undefined;
    if (!box) return null;
    const line = `${bindingWords.enabled} ${writeThing(box.layer.name)}.selected`;
    const parsed = parseBinding(line, scope);
    return parsed.ok ? { line, value: parsed.value.value } : null;
  });
  const address = $derived(isOnly && item.threads.length === 0 ? addressIn(layer.text) : null);
  /** A line written here is for all that is selected. */
  const isWriting = $derived(isSelected && session.writing === layer.id);
  const bindings = $derived(Object.entries(layer.bindings ?? {}) as [Bindable, string][]);
  const choice = $derived(layer.choice === undefined ? undefined : session.piece.scenes.get(layer.scene)?.choices?.[layer.choice]);
  const renaming = $derived(session.renaming === layer.id);
  let hovered = $state(false);
  let row: HTMLElement;

  /** A layer picked on the stage comes into view here with its threads and the line to write. */
  $effect(() => {
    if (isOnly) requestAnimationFrame(() => row?.scrollIntoView({ block: 'nearest' }));
  });

  const meta = $derived.by(() => {
    const { width, height } = item.box;
    const looks = ['rest', ...Object.keys(layer.looks ?? {})];
    if (layer.type === 'placement') return `part · ${session.piece.scenes.get(layer.part ?? '')?.name ?? 'gone'}`;
    const parts = [layer.type === 'text' ? 'text' : layer.type === 'picture' ? 'picture' : `${Math.round(width)} × ${Math.round(height)}`];
    if (looks.length > 1) parts.push(looks.join(' '));
    return parts.join(' · ');
  });
  const words = new Map(rules.map((rule) => [rule.id, rule.words]));
</script>

<div
  bind:this={row}
  class="relative border-b border-[var(--line)] py-[1.5px] pr-3 {isSelected
    ? 'bg-[var(--gold-wash)]'
    : session.lit.includes(layer.id)
      ? 'bg-[color-mix(in_srgb,var(--chip)_55%,transparent)]'
      : ''} {layer.hidden ? 'opacity-55' : away ? 'italic text-[var(--soft)]' : ''}"
  style:padding-left="{14 + depth * 16}px"
  role="treeitem"
  aria-selected={isSelected}
  aria-level={depth + 1}
  aria-expanded={folded === null ? undefined : folded === 0}
  aria-label={layer.name}
  tabindex="-1"
  data-row={layer.id}
  oncontextmenu={(event) => {
    if (!session.canEdit || session.trying || event.target instanceof HTMLInputElement) return;
    event.preventDefault();
    if (!isSelected) session.select([layer.id]);
    desk.menuAt = { x: event.clientX, y: event.clientY };
  }}
  draggable={session.canEdit && !renaming}
  onpointerenter={() => {
    hovered = true;
    session.lit = [layer.id];
  }}
  onpointerleave={() => {
    hovered = false;
    session.lit = [];
  }}
>
  {#if isSelected}<span class="absolute bottom-0 left-0 top-0 w-1 bg-[var(--gold)]"></span>{/if}
  <div class="flex min-h-[22px] items-center gap-2">
    {#if folded !== null}<button
        class="-ml-[13px] -mr-1.5 w-[11px] text-[10px] text-[var(--soft)] hover:text-[var(--ink)]"
        aria-label="{folded ? 'Unfold' : 'Fold'} {layer.name}"
        title={folded ? `Unfold: ${folded} inside` : 'Fold'}
        tabindex="-1"
        onclick={onfold}>{folded ? '▸' : '▾'}</button
      >{/if}
    <LayerMark type={layer.type} fill={colorOf(session.plain.piece.head, layer.style.fill)} />
    {#if renaming}
      <RenameField
        name={layer.name}
        label="Name of the layer"
        class="h-[22px] flex-1 !px-1"
        onname={(name) => setLayer(session, [layer.id], `Rename ${layer.name}`, ['name'], name)}
        onclose={() => (session.renaming = null)}
      />
    {:else}
      <button
        class="min-w-[88px] flex-1 truncate text-left font-semibold"
        onclick={onpick}
        ondblclick={() => session.canEdit && (session.renaming = layer.id)}
        data-pick={layer.id}>{layer.name}</button
      >
    {/if}
    {#if finding}
      <span
        class="min-w-0 truncate text-[12px] {finding.severity === 'must' ? 'text-[var(--brick-text)]' : 'text-[var(--gold-text)]'}"
        title={told.map(({ sentence }) => sentence).join('\n')}>{[...new Set(told.map(({ rule }) => words.get(rule)))].slice(0, 2).join(' · ')}</span
      >
    {:else}
      <span class="min-w-0 truncate text-[12px] {layer.type === 'placement' ? 'text-[var(--plum)]' : 'soft'}" title={away ?? meta}
        >{away ?? (folded ? `${folded} inside` : meta)}</span
      >
    {/if}
    {#if layer.locked || layer.hidden || isSelected || hovered}<span class="flex shrink-0 gap-0.5">
        <button
          class="soft px-0.5"
          aria-pressed={layer.locked ?? false}
          aria-label={layer.locked ? 'Unlock' : 'Lock'}
          title={layer.locked ? 'Unlock' : 'Lock'}
          onclick={() =>
            setLayer(session, [layer.id], layer.locked ? `Unlock ${layer.name}` : `Lock ${layer.name}`, ['locked'], layer.locked ? undefined : true)}
          >{#if layer.locked}<Lock size={12} />{:else}<LockOpen size={12} />{/if}</button
        >
        <button
          class="soft px-0.5"
          aria-pressed={layer.hidden ?? false}
          aria-label={layer.hidden ? 'Show' : 'Hide'}
          title={layer.hidden ? 'Show' : 'Hide'}
          onclick={() =>
            setLayer(session, [layer.id], layer.hidden ? `Show ${layer.name}` : `Hide ${layer.name}`, ['hidden'], layer.hidden ? undefined : true)}
          >{#if layer.hidden}<EyeOff size={12} />{:else}<Eye size={12} />{/if}</button
        >
      </span>{/if}
  </div>
  {#if item.threads.length || bindings.length || choice || asks || isOnly || isWriting}
    <div class="ml-[22px] pb-1">
      {#each item.threads as thread (thread.id)}
        <ThreadRow {session} {thread} fired={fired.has(thread.id)} />
      {/each}
      {#if layer.type === 'placement' && isOnly && session.canEdit && !session.trying}<PlacementFields {session} {layer} />{/if}
      {#if layer.choice !== undefined && choice}
        <p class="my-1 flex flex-wrap items-center gap-1 text-[12.5px]">
          <span class="soft">one of</span><span class="chip chip-teal">{choice.name}</span>
          {#if choice.variable}<span class="soft">, read as</span><span class="chip chip-teal"
              >{session.piece.variables.get(choice.variable)?.name} = {layer.choiceValue ?? layer.name}</span
            >{/if}
          {#if isOnly && session.canEdit}<button class="chip chip-ghost" onclick={() => leaveChoice(session, layer.id)}>leave it</button>{/if}
        </p>
      {/if}
      {#each bindings as [what, value] (layer.id + what)}
        <BindingRow {scope} {what} {value} canEdit={session.canEdit} onchange={(next) => bind(session, [layer.id], what, next)} />
      {/each}
      {#if isOnly && session.canEdit && !session.trying}
        <div class="my-1.5 flex flex-col gap-1">
          {#if address}
            <div class="flex flex-wrap items-center gap-1">
              <span class="soft">likely:</span>
              <button class="chip chip-ghost" onclick={() => openOnClick(session, layer.id, address)}>→ open {address}</button>
            </div>
          {/if}
          {#if agreeing}
            <div class="flex flex-wrap items-center gap-1">
              <span class="soft">likely:</span>
              <button class="chip chip-ghost" onclick={() => bind(session, [layer.id], 'enabled', agreeing.value)}>{agreeing.line}</button>
            </div>
          {/if}
          {#if likely.length}
            <div class="flex flex-wrap items-center gap-1">
              <span class="soft">likely:</span>
              {#each likely as frame (frame.id)}<button
                  class="chip chip-ghost"
                  onclick={() => session.edit(`Lead to ${frame.name}`, wireTo(session.piece, [layer.id], frame.id, newId))}>→ {frame.name}</button
                >{/each}
            </div>
          {/if}
          <LineInput {session} on="layer" owner={layer.id} focus={session.writing === layer.id} onclose={() => (session.writing = null)} />
        </div>
      {:else if isWriting && session.canEdit && !session.trying}
        <div class="my-1.5"><LineInput {session} on="layer" owner={layer.id} focus onclose={() => (session.writing = null)} /></div>
      {:else if asks && item.threads.length === 0}
        <button class="stitch stitch-off soft my-1 block text-left" onclick={(event) => (onpick(event), (session.writing = layer.id))}
          >When clicked → … <span class="text-[var(--brick-text)]">looks clickable, not wired</span></button
        >
      {/if}
    </div>
  {/if}
</div>
