<script lang="ts" module>
  import { compile, starters, type Program, type Starter } from '@zany/core';
  import { takeFocus } from '$lib/shared/focus';
  import { composePart } from './starter-previews';

  const previews = new Map<string, Program>();

  function preview(starter: Starter): Program {
    let known = previews.get(starter.id);
    if (!known) previews.set(starter.id, (known = compile(composePart(starter))));
    return known;
  }
</script>

<script lang="ts">
  import { insertStarter, scenesOf } from '@zany/core';
  import Thumb from '$lib/shared/Thumb.svelte';
  import { newId } from '$lib/client/ids';
  import type { EditorSession } from '$lib/client/session.svelte';
  import { placeEverywhere } from './acts';

  /** Parts to begin with, seen before they are put in: a press places one in the open scene. */
  let { session }: { session: EditorSession } = $props();

  let typed = $state('');
  const fits = $derived(starters.filter(({ name, meaning }) => `${name} ${meaning}`.toLowerCase().includes(typed.trim().toLowerCase())));
  const close = () => (session.panel = null);

  function place(starter: Starter) {
    if (!session.sceneId) return;
    const { operations, placement } = insertStarter(session.plain.piece, starter, session.sceneId, newId);
    close();
    if (placement && session.edit(`Place ${starter.name}`, operations)) session.select([placement]);
  }

  function everywhere(starter: Starter) {
    close();
    placeEverywhere(session, starter);
  }
</script>

<div class="flex min-h-0 flex-1 flex-col gap-2" role="dialog" aria-label="Starter parts">
  <div class="flex items-baseline gap-2">
    <h3 class="flex-1 text-[15px]">Starter parts</h3>
    <button class="act act-plain" onclick={close} aria-label="Close" title="Close (Esc)">✕</button>
  </div>
  <input
    class="field w-full shrink-0"
    placeholder="type to filter"
    aria-label="Filter starter parts"
    bind:value={typed}
    use:takeFocus
    onkeydown={(event) => {
      event.stopPropagation();
      if (event.key === 'Enter' && fits[0]) place(fits[0]);
      if (event.key === 'Escape') close();
    }}
  />
  <p class="soft">Made of ordinary layers, states and threads; with <kbd>Shift</kbd> it is carried by all frames.</p>
  <div class="scroll grid min-h-0 grid-cols-[repeat(auto-fill,minmax(96px,1fr))] content-start gap-2">
    {#each fits as starter (starter.id)}
      {@const program = preview(starter)}
      {@const part = scenesOf(program.piece, 'part').find((scene) => scene.name === starter.name)!}
      <button
        class="flex min-w-0 flex-col gap-1 rounded-lg border border-[var(--line)] p-2 text-left hover:border-[var(--plum)]"
        aria-label="Place {starter.name}"
        title={starter.meaning}
        onclick={(event) => (event.shiftKey ? everywhere(starter) : place(starter))}
      >
        <span class="grid h-[72px] w-full place-items-center overflow-hidden rounded bg-[var(--paper)]">
          <Thumb
            scene={program.scenes.get(part.id) ?? null}
            {program}
            assetUrl={session.assetUrl}
            width={84}
            height={66}
            state={starter.id === 'dialog' || starter.id === 'toast' ? (program.scenes.get(part.id)?.states.at(-1)?.id ?? null) : null}
          />
        </span>
        <span class="truncate font-semibold text-[var(--plum)]">{starter.name}</span>
        <span class="soft line-clamp-2 text-[12px] leading-tight">{starter.meaning}</span>
      </button>
    {/each}
  </div>
</div>
