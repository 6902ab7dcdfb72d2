<script lang="ts">
  import { count, findAll, groupedBy, operationsOf, searchKinds, type Hit, type SearchKind } from '@zany/core';
  import { untrack } from 'svelte';
  import type { EditorSession } from '$lib/client/session.svelte';
  import { flipped } from '$lib/shared/flipped';
  import { fieldKey, takeFocus } from '$lib/shared/focus';

  /** Finds something in the whole piece, and puts something else in its place: seen on the stage before it is done, and one step to undo. */
  let { session }: { session: EditorSession } = $props();

  /** So many places are listed; more are found and replaced. */
  const MOST_LISTED = 300;

  const all = Object.entries(searchKinds) as [SearchKind, (typeof searchKinds)[SearchKind]][];
  const isColour = (text: string) => /^#[0-9a-f]{3,8}$/i.test(text.trim());

  /** What was typed is looked for when it has been left alone for so long, in ms. */
  const REST = 90;

  let field: HTMLInputElement | undefined = $state();
  let typed = $state('');
  let find = $state('');
  let put = $state('');
  let chosen: SearchKind[] = $state(['names', 'texts', 'notes', 'threads', 'bindings']);
  let whole = $state(false);
  let capitals = $state(false);
  let without: ReadonlySet<string> = $state.raw(new Set());
  /** Nothing is put in place before somebody has said what. */
  let hasPut = $state(false);

  const kinds = $derived(isColour(find) && !chosen.includes('colours') ? [...chosen, 'colours' as const] : chosen);
  const found = $derived(findAll(session.plain.piece, { find, put: find, kinds, whole, capitals }));
  const search = $derived(hasPut ? findAll(session.plain.piece, { find, put, kinds, whole, capitals }, without) : found);
  /** Places that are not replaced, because a name that is goes with them. */
  const following = $derived(kinds.includes('names') ? found.hits.length - search.hits.length : 0);
  const faulty = $derived(hasPut ? search.hits.filter(({ fault }) => fault !== null).length : 0);
  const replaced = $derived(hasPut ? search.hits.filter(({ key, fault }) => fault === null && !without.has(key)) : []);
  const operations = $derived(session.canEdit ? operationsOf(replaced) : []);

  const words = $derived.by(() => {
    const { hits, more } = search;
    if (hits.length === 0) return 'Nowhere';
    const cannot = faulty ? `, ${faulty} of them cannot be` : '';
    return `In ${more ? `more than ${count(hits.length, 'place')}, of which these are replaced in one go` : count(hits.length, 'place')}${cannot}${following > 0 ? `; ${following} more follow the names` : ''}`;
  });

  const groups = $derived([...groupedBy(search.hits.slice(0, MOST_LISTED), ({ scene }) => scene)]);

  $effect(() => {
    const now = operations;
    untrack(() => session.preview(now.length ? now : null, 'plain'));
    return () => untrack(() => session.preview(null));
  });
  $effect(() => () => untrack(() => (session.lit = [])));
  $effect(() => {
    const next = typed;
    const timer = setTimeout(() => (find = next), REST);
    return () => clearTimeout(timer);
  });

  const close = () => (session.panel = null);

  const turn = (kind: SearchKind) => (chosen = chosen.includes(kind) ? chosen.filter((one) => one !== kind) : [...chosen, kind]);

  function show(hit: Hit) {
    if (hit.scene !== null && session.plain.piece.scenes.has(hit.scene)) session.openScene(hit.scene);
    if (hit.layer !== null) session.select([hit.layer]);
  }

  function apply() {
    const [all, where] = [operations, count(replaced.length, 'place')];
    if (all.length === 0) return;
    close();
    if (session.edit(`Replace “${find}” by “${put}”`, all, 'plain')) session.notify(`Replaced in ${where}.`);
  }

  /** What was there before, cut into what is looked for and what stands around it. */
  function pieces({ before, at }: Hit): { text: string; isIt: boolean }[] {
    const cut: { text: string; isIt: boolean }[] = [];
    let from = 0;
    for (const [begin, end] of at) {
      cut.push({ text: before.slice(from, begin), isIt: false }, { text: before.slice(begin, end), isIt: true });
      from = end;
    }
    return [...cut, { text: before.slice(from), isIt: false }].filter(({ text }) => text !== '');
  }

  const nameOf = (scene: string | null) =>
    scene === null ? session.plain.piece.head.name : (session.plain.piece.scenes.get(scene)?.name ?? 'a scene that is gone');
</script>

<svelte:window
  onkeydowncapture={(event) => {
    if (event.key.toLowerCase() !== 'f' || !(event.ctrlKey || event.metaKey)) return;
    event.preventDefault();
    field?.focus();
    field?.select();
  }}
/>
<div class="flex min-h-0 flex-1 flex-col gap-2" role="dialog" aria-label="Find and replace">
  <div class="flex items-baseline gap-2">
    <h3 class="flex-1 text-[15px]">Find and replace</h3>
    <button class="act act-plain" aria-label="Close" title="Close (Esc)" onclick={close}>✕</button>
  </div>
  <input
    bind:this={field}
    class="field w-full shrink-0"
    aria-label="Find"
    placeholder="find in the whole piece"
    bind:value={typed}
    onkeydown={fieldKey}
    use:takeFocus
  />
  {#if session.canEdit}
    <input
      class="field w-full shrink-0"
      aria-label="Put instead"
      placeholder="put instead"
      bind:value={put}
      oninput={() => (hasPut = true)}
      onkeydown={(event) => {
        if (event.key === 'Enter') apply();
        fieldKey(event);
      }}
    />
  {/if}
  <div class="flex flex-wrap gap-1" role="group" aria-label="Where to look">
    {#each all as [kind, { label, meaning }] (kind)}
      {@const isOn = kinds.includes(kind)}
      <button class="chip {isOn ? 'chip-on' : ''}" aria-pressed={isOn} title="{label}: {meaning}" onclick={() => turn(kind)}>{label}</button>
    {/each}
  </div>
  <div class="flex flex-wrap gap-x-3 gap-y-1">
    <label class="flex items-center gap-1.5"><input type="checkbox" class="checkbox checkbox-xs" bind:checked={whole} />whole words</label>
    <label class="flex items-center gap-1.5"><input type="checkbox" class="checkbox checkbox-xs" bind:checked={capitals} />same capitals</label>
  </div>
  {#if find}
    <p class="soft" aria-live="polite">
      {words}.
    </p>
  {/if}
  <div class="scroll flex min-h-0 flex-1 flex-col gap-2" role="list" aria-label="Places">
    {#each groups as [scene, hits] (scene)}
      <div role="listitem">
        <p class="mb-0.5 truncate font-semibold">{nameOf(scene)}</p>
        {#each hits as hit (hit.key)}
          {@const isLeft = without.has(hit.key)}
          <div class="flex items-start gap-1.5 border-t border-[var(--line)] py-1.5">
            {#if session.canEdit && hasPut}
              <input
                type="checkbox"
                class="checkbox checkbox-xs mt-0.5"
                aria-label="Replace in {hit.where}"
                checked={!isLeft && hit.fault === null}
                disabled={hit.fault !== null && !isLeft}
                onchange={() => (without = flipped(without, hit.key))}
              />
            {/if}
            <button
              class="min-w-0 flex-1 cursor-pointer text-left"
              onclick={() => show(hit)}
              onpointerenter={() => (session.lit = hit.layer === null ? [] : [hit.layer])}
              onpointerleave={() => (session.lit = [])}
            >
              <span class="soft block truncate">{hit.where}</span>
              <span class="block break-words [overflow-wrap:anywhere]"
                >{#each pieces(hit) as piece, i (i)}{#if piece.isIt}<mark
                      class="rounded-sm bg-[color-mix(in_srgb,var(--gold)_38%,transparent)] text-inherit">{piece.text}</mark
                    >{:else}{piece.text}{/if}{/each}</span
              >
              {#if hasPut && hit.fault !== null}<span class="block text-[var(--brick)]">{hit.fault}</span>
              {:else if hasPut && !isLeft}<span class="block break-words text-[var(--teal)] [overflow-wrap:anywhere]">{hit.after || '(nothing)'}</span
                >{/if}
            </button>
          </div>
        {/each}
      </div>
    {/each}
    {#if search.hits.length > MOST_LISTED}<p class="soft">
        and {count(search.hits.length - MOST_LISTED, 'place')} more{hasPut ? ', replaced as well' : ''}
      </p>{/if}
  </div>
  {#if session.canEdit}
    <button class="act act-go self-start" disabled={replaced.length === 0} onclick={apply}
      >{replaced.length ? `Replace in ${count(replaced.length, 'place')}` : 'Replace'}</button
    >
  {/if}
</div>
