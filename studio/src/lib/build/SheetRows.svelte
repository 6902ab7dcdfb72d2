<script lang="ts">
  import { count, scenesOf, type SceneProgram } from '@zany/core';
  import type { EditorSession } from '$lib/client/session.svelte';
  import CarrierChip from './CarrierChip.svelte';
  import ThreadRow from './ThreadRow.svelte';

  /** The sheets that the open frame carries, over or under its own layers, each with its threads: wired once, read everywhere. */
  let { session, place, fired }: { session: EditorSession; place: 'over' | 'under'; fired: ReadonlySet<string> } = $props();

  const carried = $derived(
    (session.sceneAtRest?.scene.carries ?? [])
      .filter((one) => one.place === place)
      .flatMap((one) => session.program.scenes.get(one.sheet) ?? [])
      .reverse()
  );
  /** Sheets with many threads are folded to begin with: the frame's own layers come first. */
  let opened: Record<string, boolean> = $state({});
  const wired = (sheet: SceneProgram) => sheet.threads.length + sheet.items.reduce((sum, item) => sum + item.threads.length, 0);
  const isOpen = (sheet: SceneProgram) => opened[sheet.scene.id] ?? (wired(sheet) <= 2 || session.trying);

  const all = $derived(scenesOf(session.piece, 'sheet').length);
</script>

{#each carried as sheet (sheet.scene.id)}
  <div
    class="border-b border-[var(--line)] bg-[color-mix(in_srgb,var(--plum-wash)_45%,transparent)] px-3.5 py-1.5"
    role="group"
    aria-label="Sheet {sheet.scene.name}"
  >
    <div class="flex min-h-[22px] items-center gap-2">
      <span class="h-[13px] w-[13px] rounded-[3px] border-[1.5px] border-[var(--plum)] bg-[var(--plum-wash)]"></span>
      <button class="min-w-0 flex-1 truncate text-left font-semibold" title="Go into the sheet" onclick={() => session.enterScene(sheet.scene.id)}
        >{sheet.scene.name}</button
      >
      {#if wired(sheet) > 2}<button
          class="soft text-[12px] underline"
          aria-expanded={isOpen(sheet)}
          onclick={() => (opened = { ...opened, [sheet.scene.id]: !isOpen(sheet) })}>{isOpen(sheet) ? 'fold' : count(wired(sheet), 'thread')}</button
        >{/if}
      <span class="soft text-[12px]">sheet ·</span>
      <CarrierChip {session} sheet={sheet.scene.id} />
    </div>
    {#if isOpen(sheet)}<div class="ml-[22px]">
        {#each sheet.items.filter((item) => item.threads.length) as item (item.layer.id)}
          <p class="soft mt-1 text-[12px]">{item.layer.name}</p>
          {#each item.threads as thread (thread.id)}<ThreadRow {session} {thread} fired={fired.has(thread.id)} />{/each}
        {/each}
        {#each sheet.threads as thread (thread.id)}<ThreadRow {session} {thread} fired={fired.has(thread.id)} />{/each}
      </div>{/if}
  </div>
{:else}
  {#if place === 'over' && all && session.scene?.scene.use === 'frame' && session.scene.items.length === 0}
    <p class="soft px-3.5 py-2 text-[12px]">This frame carries no sheet.</p>
  {/if}
{/each}
