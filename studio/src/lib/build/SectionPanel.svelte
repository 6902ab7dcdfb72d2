<script lang="ts">
  import { count, cutText, leadsToNext, MOST_NAME, newSection } from '@zany/core';
  import { newId } from '$lib/client/ids';
  import type { EditorSession } from '$lib/client/session.svelte';
  import { takeFocus } from '$lib/shared/focus';
  import { bundleNamed } from './acts';

  /** Several frames at once, by their names: empty, or as the open one is. */
  let { session }: { session: EditorSession } = $props();

  /** So many frames are made at once. */
  const MOST = 100;

  let written = $state('');
  let like = $state(false);
  let leadsOn = $state(true);
  let bundle = $state('');

  const open = $derived(session.scene?.scene.use === 'frame' ? session.scene.scene : null);
  /** One a line, or with commas between them. */
  const names = $derived(
    written
      .split(/[\n,;\t]+/)
      .map((name) => cutText(name.trim(), MOST_NAME))
      .filter(Boolean)
  );
  const canLead = $derived(open !== null && leadsToNext(session.piece, open.id));
  const bundles = $derived(Object.values(session.piece.head.bundles ?? {}));
  const problem = $derived(names.length > MOST ? `${count(names.length, 'name')}: ${MOST} are made at once at most.` : '');

  const close = () => (session.panel = null);

  function make() {
    if (names.length === 0 || problem) return;
    const into = bundle.trim() ? bundleNamed(session, bundle.trim()) : null;
    const from = like && open ? open.id : null;
    const { operations, ids } = newSection(
      session.plain.piece,
      { names, after: open?.id ?? null, like: from, leadsOn: leadsOn && canLead, ...(into && { bundle: into.id }) },
      newId
    );
    const made = session.edit(`New frames: ${cutText(names.join(', '), 60)}`, [...(into?.operations ?? []), ...operations], 'plain');
    if (!made) return;
    close();
    session.openScene(ids[0]!);
  }

  function keyed(event: KeyboardEvent) {
    if (event.key !== 'Enter' || !(event.ctrlKey || event.metaKey)) return;
    event.preventDefault();
    make();
  }
</script>

<div class="flex min-h-0 flex-1 flex-col gap-2.5" role="dialog" aria-label="New frames by their names">
  <div class="flex items-baseline gap-2">
    <h3 class="min-w-0 flex-1 text-[15px]">New frames</h3>
    <button class="act act-plain" onclick={close} aria-label="Close" title="Close (Esc)">✕</button>
  </div>
  <p class="soft">They come after {open ? open.name : 'all others'}, in this order.</p>
  <textarea
    class="field min-h-[150px] resize-y"
    aria-label="Names of the frames"
    placeholder={'one name a line,\nor with commas between'}
    bind:value={written}
    onkeydown={keyed}
    use:takeFocus></textarea>
  {#if open}
    <div class="flex flex-wrap gap-1" role="group" aria-label="What they are">
      <button class="chip {like ? '' : 'chip-on'}" aria-pressed={!like} onclick={() => (like = false)}>empty</button>
      <button class="chip {like ? 'chip-on' : ''}" aria-pressed={like} onclick={() => (like = true)}>each as {open.name}</button>
    </div>
    {#if like && canLead}
      <label class="flex items-baseline gap-2"
        ><input type="checkbox" class="checkbox checkbox-xs translate-y-0.5" bind:checked={leadsOn} /><span
          >what leads on from {open.name} leads from each to the next</span
        ></label
      >
    {/if}
  {/if}
  <label class="flex flex-col gap-1"
    ><span class="soft">bundle</span><input
      class="field"
      list="bundles-for-a-section"
      placeholder={session.piece.head.bundles?.[open?.bundle ?? '']?.name ?? 'none'}
      maxlength="120"
      bind:value={bundle}
      onkeydown={keyed}
    /></label
  >
  <datalist id="bundles-for-a-section"
    >{#each bundles as { name } (name)}<option value={name}></option>{/each}</datalist
  >
  {#if problem}<p class="text-[var(--brick-text)]" role="alert">{problem}</p>{/if}
  <div class="flex gap-2">
    <button class="act act-go" disabled={names.length === 0 || problem !== ''} onclick={make} title="Ctrl+Enter"
      >{names.length ? `Make ${count(names.length, 'frame')}` : 'Make the frames'}</button
    >
    <button class="act act-plain" onclick={close}>Not now</button>
  </div>
</div>
