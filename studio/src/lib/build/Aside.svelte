<script lang="ts">
  import type { EditorSession } from '$lib/client/session.svelte';
  import FindPanel from './FindPanel.svelte';
  import Landings from './Landings.svelte';
  import VariablesPanel from './VariablesPanel.svelte';

  /** Beside the stage: where threads lead, what the piece remembers, and what is looked for in it. */
  let { session, picker = $bindable() }: { session: EditorSession; picker?: HTMLInputElement | undefined } = $props();

  let tab: 'landings' | 'variables' = $state('landings');
  const count = $derived(session.piece.variables.size);
</script>

<aside
  class="scroll flex min-h-0 flex-col gap-3 border-l border-[var(--line)] bg-[var(--sheet)] px-3.5 py-2.5"
  aria-label={session.panel === 'find' ? 'Find' : tab === 'landings' ? 'Landings' : 'Variables'}
>
  {#if session.panel === 'find'}<FindPanel {session} />{:else}
    <div class="flex items-baseline gap-3" role="tablist" aria-label="Beside the stage">
      <button role="tab" aria-selected={tab === 'landings'} class="tab-word" onclick={() => (tab = 'landings')}>Landings</button>
      <button role="tab" aria-selected={tab === 'variables'} class="tab-word" onclick={() => (tab = 'variables')}
        >Variables{count ? ` ${count}` : ''}</button
      >
    </div>
    {#if tab === 'landings'}<Landings {session} bind:picker />{:else}<VariablesPanel {session} />{/if}
  {/if}
</aside>
