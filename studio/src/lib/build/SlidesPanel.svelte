<script lang="ts">
  import { makeSlides, slideRoles, type SlideRoles } from '@zany/core';
  import { newId } from '$lib/client/ids';
  import type { EditorSession } from '$lib/client/session.svelte';
  import { isLeaving, takeFocus } from '$lib/shared/focus';
  import { boxed } from './acts';
  import NumberField from './NumberField.svelte';
  import TransitionChip from './TransitionChip.svelte';

  /** Layers that take turns in one window, told apart by size: slides, arrows and dots. */
  let { session }: { session: EditorSession } = $props();

  // svelte-ignore state_referenced_locally
  const layers = boxed(session.selection.flatMap((id) => session.scene?.byId.get(id) ?? []));
  const roles: SlideRoles | null = slideRoles(layers);
  let ms = $state(300);
  let easing = $state('ease-out');
  let around = $state(false);

  const nameOf = (id: string) => layers.find((layer) => layer.id === id)?.name ?? '';
  const close = () => (session.panel = null);

  function apply() {
    if (!roles || !session.sceneId) return;
    const made = makeSlides(session.plain, session.sceneId, roles, { name: 'Slides', timing: { ms, easing }, around }, newId);
    close();
    if (made && session.edit(`Make ${roles.slides.length} slides`, made.operations, 'plain')) session.select([made.placement]);
  }

  const light = (ids: readonly string[]) => (session.lit = ids);
</script>

<svelte:window onkeydowncapture={(event) => isLeaving(event) && close()} />
<div class="pop absolute bottom-4 right-4 z-30 flex w-[320px] flex-col gap-2.5 p-3" role="dialog" aria-label="Make slides">
  <h3 class="text-[15px]">Make slides</h3>
  {#if roles}
    <dl class="grid grid-cols-[64px_1fr] gap-y-1">
      {#each [['slides', roles.slides], ['arrows', roles.arrows ?? []], ['dots', roles.dots]] as const as [word, ids] (word)}
        <dt class="soft">{word}</dt>
        <dd onpointerenter={() => light(ids)} onpointerleave={() => light([])}>{ids.map(nameOf).join(', ') || 'none'}</dd>
      {/each}
    </dl>
    <p class="soft">A part with a state for each slide. Arrows go back and on, dots go to their slide and follow.</p>
    <div class="flex items-center gap-1.5">
      <span class="soft">in</span><NumberField
        value={ms}
        label="Milliseconds"
        min={0}
        max={10000}
        step={50}
        width={64}
        onset={(value) => (ms = value ?? 300)}
      />
      <span class="soft">ms</span>
      <TransitionChip
        transition={{ type: 'tween', ms, easing }}
        only={['tween']}
        label={easing}
        onchange={(next) => next.type !== 'cut' && ((ms = next.ms), (easing = next.easing))}
      />
      <button class="chip {around ? 'chip-on' : ''}" aria-pressed={around} onclick={() => (around = !around)}>round and round</button>
    </div>
    <div class="flex gap-2">
      <button class="act act-go" onclick={apply} use:takeFocus>Make slides</button><button class="act act-plain" onclick={close}>Not now</button>
    </div>
  {:else}
    <p class="soft">Select two or more layers of one size, and with them two arrows and a dot for each, if there are some.</p>
    <button class="act act-plain self-start" onclick={close} use:takeFocus>Close</button>
  {/if}
</div>
