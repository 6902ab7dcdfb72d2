<script lang="ts">
  import type { EditorSession } from '$lib/client/session.svelte';
  import { isLeaving } from '$lib/shared/focus';
  import { tick } from 'svelte';
  import { restyleSelected } from './acts';
  import BehavesPanel from './BehavesPanel.svelte';
  import CommentsPanel from './CommentsPanel.svelte';
  import FindPanel from './FindPanel.svelte';
  import Landings from './Landings.svelte';
  import MoreProperties from './MoreProperties.svelte';
  import PairUp from './PairUp.svelte';
  import Repeat from './Repeat.svelte';
  import RowsPanel from './RowsPanel.svelte';
  import SlidesPanel from './SlidesPanel.svelte';
  import StartersPanel from './StartersPanel.svelte';
  import SectionPanel from './SectionPanel.svelte';
  import InPlacePanel from './InPlacePanel.svelte';
  import TwinsPanel from './TwinsPanel.svelte';
  import VariablesPanel from './VariablesPanel.svelte';

  /** Beside the stage: where threads lead, what the piece remembers, and whatever panel is open. */
  let { session, picker = $bindable() }: { session: EditorSession; picker?: HTMLInputElement | undefined } = $props();

  let tab: 'landings' | 'variables' = $state('landings');
  const panel = $derived(session.shownPanel);
  const layers = $derived(session.selection.flatMap((id) => session.scene?.byId.get(id)?.layer ?? []));
  const about = $derived(layers.length === 1 ? layers[0]!.name : `${layers.length} layers`);
  let aside: HTMLElement | undefined = $state();

  /** Escape closes the panel, and leaves selected what is. */
  function leave(event: KeyboardEvent) {
    if (panel === null || !isLeaving(event)) return;
    event.stopPropagation();
    session.panel = null;
  }

  // A panel that was asked for is what keys are for next.
  $effect(() => {
    if (panel === null) return;
    void tick().then(() => {
      const dialog = aside?.querySelector<HTMLElement>('[role=dialog]');
      if (!dialog || dialog.contains(document.activeElement)) return;
      dialog.querySelector<HTMLElement>('input, select, button:not([aria-label="Close"])')?.focus({ preventScroll: true });
    });
  });

  const count = $derived(session.piece.variables.size);
</script>

<svelte:window onkeydowncapture={leave} />
<aside
  bind:this={aside}
  class="scroll flex min-h-0 flex-col gap-3 border-l border-[var(--line)] bg-[var(--sheet)] px-3.5 py-2.5"
  aria-label={panel !== null ? 'Panel' : tab === 'landings' ? 'Landings' : 'Variables'}
>
  {#if panel === 'comments'}<CommentsPanel {session} />
  {:else if panel === 'find'}<FindPanel {session} />
  {:else if panel === 'pair up'}<PairUp {session} />
  {:else if panel === 'starter parts'}<StartersPanel {session} />
  {:else if panel === 'slides'}<SlidesPanel {session} />
  {:else if (panel === 'behaves' || panel === 'more') && layers.length}
    {@const name = panel === 'behaves' ? 'How it behaves' : 'More properties'}
    <div class="flex flex-col gap-2" role="dialog" aria-label={name}>
      <div class="flex items-baseline gap-2">
        <h3 class="text-[15px]">{panel === 'behaves' && layers.length > 1 ? 'How they behave' : name}</h3>
        <span class="soft min-w-0 flex-1 truncate">{about}</span>
        <button class="act act-plain" onclick={() => (session.panel = null)} aria-label="Close" title="Close (Esc)">✕</button>
      </div>
      {#if panel === 'behaves'}<BehavesPanel {session} {layers} />
      {:else}<MoreProperties
          {session}
          {layers}
          onstyle={(key, value) => restyleSelected(session, [key], value)}
          onletters={(key, value) => restyleSelected(session, ['letters', key], value)}
        />{/if}
    </div>
  {:else if panel === 'rows'}<RowsPanel {session} />
  {:else if panel === 'repeat'}<Repeat {session} />
  {:else if panel === 'twins'}<TwinsPanel {session} />
  {:else if panel === 'in place'}<InPlacePanel {session} />
  {:else if panel === 'section'}<SectionPanel {session} />
  {:else}
    <div class="flex items-baseline gap-3" role="tablist" aria-label="Beside the stage">
      <button role="tab" aria-selected={tab === 'landings'} class="tab-word" onclick={() => (tab = 'landings')}>Landings</button>
      <button role="tab" aria-selected={tab === 'variables'} class="tab-word" onclick={() => (tab = 'variables')}
        >Variables{count ? ` ${count}` : ''}</button
      >
    </div>
    {#if tab === 'landings'}<Landings {session} bind:picker />{:else}<VariablesPanel {session} />{/if}
  {/if}
</aside>
