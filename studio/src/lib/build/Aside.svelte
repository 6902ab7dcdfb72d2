<script lang="ts">
  import type { EditorSession } from '$lib/client/session.svelte';
  import { isLeaving } from '$lib/shared/focus';
  import FindPanel from './FindPanel.svelte';
  import Landings from './Landings.svelte';
  import PairUp from './PairUp.svelte';
  import Repeat from './Repeat.svelte';
  import SlidesPanel from './SlidesPanel.svelte';
  import StartersPanel from './StartersPanel.svelte';
  import VariablesPanel from './VariablesPanel.svelte';

  /** Beside the stage: where threads lead, what the piece remembers, and whatever panel is open. */
  let { session, picker = $bindable() }: { session: EditorSession; picker?: HTMLInputElement | undefined } = $props();

  let tab: 'landings' | 'variables' = $state('landings');
  const panel = $derived(session.shownPanel);
  const count = $derived(session.piece.variables.size);
</script>

<svelte:window onkeydowncapture={(event) => panel !== null && isLeaving(event) && (session.panel = null)} />
<aside
  class="scroll flex min-h-0 flex-col gap-3 border-l border-[var(--line)] bg-[var(--sheet)] px-3.5 py-2.5"
  aria-label={panel !== null ? 'Panel' : tab === 'landings' ? 'Landings' : 'Variables'}
>
  {#if panel === 'find'}<FindPanel {session} />
  {:else if panel === 'pair up'}<PairUp {session} />
  {:else if panel === 'starter parts'}<StartersPanel {session} />
  {:else if panel === 'slides'}<SlidesPanel {session} />
  {:else if panel === 'repeat'}<Repeat {session} />
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
