<script lang="ts">
  import RenameField from '$lib/shared/RenameField.svelte';
  import type { EditorSession } from '$lib/client/session.svelte';
  import { renameBundle } from './acts';
  import WorstMark from './WorstMark.svelte';
  import type { BundleEntry } from './shelf-list';

  /** The name of a bundle on the shelf, under which its frames stand. */
  interface Props {
    session: EditorSession;
    entry: BundleEntry;
    /** The worst of what its frames lack, told while they are folded. */
    worst: 'must' | 'look' | undefined;
    dropsIn: boolean;
    /** The bundle that is being renamed. */
    renaming: string | null;
    onfold: (all: boolean) => void;
    onmenu: (anchor: HTMLElement) => void;
    ondrag: () => void;
    ondragover: () => void;
    ondragend: () => void;
  }
  let { session, entry, worst, dropsIn, renaming = $bindable(), onfold, onmenu, ondrag, ondragover, ondragend }: Props = $props();

  const name = $derived(session.piece.head.bundles?.[entry.bundle ?? '']?.name);
</script>

{#if entry.bundle === null || name === undefined}
  <h2 class="soft w-full shrink-0 px-2 text-center text-[12px]" title="in no bundle" {ondragover}>·</h2>
{:else if renaming === entry.bundle}
  {@const bundle = entry.bundle}
  <RenameField
    {name}
    label="Name of the bundle"
    class="h-6 w-full !px-1 text-[12px]"
    onname={(now) => renameBundle(session, bundle, now)}
    onclose={() => (renaming = null)}
  />
{:else}
  <h2 class="w-full shrink-0 px-1" data-shelf-bundle={entry.bundle}>
    <button
      class="flex h-[26px] w-full items-center gap-1 rounded-md px-1 text-[12px] font-semibold hover:bg-[var(--sheet)] {dropsIn
        ? 'outline-2 outline-[var(--gold)]'
        : ''}"
      aria-expanded={!entry.isFolded}
      title="{name}: {entry.frames.length} frames. Shift folds all."
      draggable={session.canEdit}
      ondragstart={ondrag}
      {ondragover}
      {ondragend}
      onclick={(event) => onfold(event.shiftKey)}
      oncontextmenu={(event) => {
        event.preventDefault();
        onmenu(event.currentTarget);
      }}
    >
      <span class="soft w-2 shrink-0" aria-hidden="true">{entry.isFolded ? '▸' : '▾'}</span>
      <span class="min-w-0 flex-1 truncate text-left">{name}</span>
      {#if entry.isFolded}
        <span class="soft shrink-0 font-normal">{entry.frames.length}</span>
        <WorstMark {worst} isSmall />
      {/if}
    </button>
  </h2>
{/if}
