<script lang="ts">
  import { carriersOf, placementsOf, scenesOf } from '@zany/core';
  import Thumb from '$lib/shared/Thumb.svelte';
  import RenameField from '$lib/shared/RenameField.svelte';
  import Popover from '$lib/shared/Popover.svelte';
  import type { EditorSession } from '$lib/client/session.svelte';
  import { placeHere, setFrame } from './acts';

  /** The parts, or the sheets, of the piece: opened by a press, placed by dragging onto the stage. */
  let { session, use }: { session: EditorSession; use: 'part' | 'sheet' } = $props();

  const scenes = $derived(scenesOf(session.piece, use));
  let renaming: string | null = $state(null);
  let menu: { id: string; anchor: HTMLElement } | null = $state(null);

  function remove(id: string) {
    const used = use === 'part' ? placementsOf(session.piece, id).length : carriersOf(session.piece, id).length;
    const name = session.piece.scenes.get(id)?.name;
    if (used) session.notify(`${name} is still ${use === 'part' ? 'placed' : 'carried'} ${used} times; take it away there first.`);
    else session.edit(`Delete ${name}`, [{ op: 'remove', table: 'scenes', id }], 'plain');
  }
</script>

{#if scenes.length}
  <h2 class="mt-1 w-full border-t border-[var(--line)] px-2 pt-2 text-center text-[12px] font-semibold text-[var(--plum)]">
    {use === 'part' ? 'Parts' : 'Sheets'}
  </h2>
  {#each scenes as scene (scene.id)}
    <div class="relative flex w-full max-w-[100px] flex-col items-center px-1" role="group" aria-label="{use} {scene.name}">
      <button
        class="grid min-h-[34px] w-[62px] place-items-center overflow-hidden rounded-md border-2 bg-[var(--sheet)] p-[2px] {scene.id ===
        session.sceneId
          ? 'border-[var(--plum)]'
          : 'border-[var(--line)]'}"
        aria-current={scene.id === session.sceneId ? 'true' : undefined}
        aria-label="Open the {use} {scene.name}"
        draggable={use === 'part' && session.canEdit}
        ondragstart={(event) => event.dataTransfer?.setData('application/x-zany-part', scene.id)}
        onclick={() => session.openScene(scene.id)}
        ondblclick={() => session.canEdit && (renaming = scene.id)}
        oncontextmenu={(event) => {
          event.preventDefault();
          menu = { id: scene.id, anchor: event.currentTarget };
        }}
      >
        <Thumb scene={session.program.scenes.get(scene.id) ?? null} assetUrl={session.assetUrl} width={54} height={40} />
      </button>
      {#if renaming === scene.id}
        <RenameField
          name={scene.name}
          label="Name of the {use}"
          class="h-5 w-full !px-1 text-[12px]"
          onname={(name) => setFrame(session, scene.id, `Rename ${scene.name}`, 'name', name)}
          onclose={() => (renaming = null)}
        />
      {:else}<span class="soft w-full truncate text-center text-[12px]" title={scene.name}>{scene.name}</span>{/if}
    </div>
  {/each}
{/if}

{#if menu}
  {@const id = menu.id}
  <Popover anchor={menu.anchor} label={session.piece.scenes.get(id)?.name ?? ''} onclose={() => (menu = null)} width={170}>
    {#if use === 'part'}<button class="menu-row" onclick={() => (placeHere(session, id), (menu = null))}>Place in the open scene</button>{/if}
    <button class="menu-row" onclick={() => ((renaming = id), (menu = null))}>Rename</button>
    <button class="menu-row text-[var(--brick-text)]" onclick={() => (remove(id), (menu = null))}>Delete</button>
  </Popover>
{/if}
