<script lang="ts">
  import { carriersOf, carry, framesOf, putDown, type Operation, type Scene } from '@zany/core';
  import Popover from '$lib/shared/Popover.svelte';
  import type { EditorSession } from '$lib/client/session.svelte';

  /** Which frames carry a sheet: all, those of a bundle, or any, and whether over or under their own layers. */
  let { session, sheet }: { session: EditorSession; sheet: string } = $props();

  let open = $state(false);
  let chip: HTMLButtonElement | undefined = $state();

  const frames = $derived(framesOf(session.piece));
  const carriers = $derived(new Set(carriersOf(session.piece, sheet).map((frame) => frame.id)));
  const place = $derived([...carriers].map((id) => session.piece.scenes.get(id)!.carries!.find((one) => one.sheet === sheet)!.place)[0] ?? 'over');
  const name = $derived(session.piece.scenes.get(sheet)?.name ?? '');
  const bundles = $derived(Object.entries(session.piece.head.bundles ?? {}));
  const words = $derived(
    carriers.size === 0
      ? 'no frame carries it'
      : `${place} ${carriers.size === frames.length ? 'all' : carriers.size} frame${carriers.size === 1 ? '' : 's'}`
  );

  function set(wanted: (frame: Scene) => boolean, label: string) {
    const operations = frames.flatMap((frame): Operation[] => {
      const has = carriers.has(frame.id);
      if (wanted(frame) === has) return [];
      return has ? putDown(session.piece, frame.id, sheet) : carry(session.piece, frame.id, sheet, place);
    });
    session.edit(label, operations, 'plain');
  }

  const turn = (to: 'over' | 'under') =>
    session.edit(
      `Carry ${name} ${to}`,
      [...carriers].flatMap((frame) => carry(session.piece, frame, sheet, to)),
      'plain'
    );
</script>

<button
  bind:this={chip}
  class="chip whitespace-nowrap text-[12px] !text-[var(--plum)]"
  aria-expanded={open}
  aria-label="Carried: {words}"
  onclick={() => (open = !open)}>{words}</button
>
{#if open && chip}
  <Popover anchor={chip} label="Frames that carry {name}" onclose={() => (open = false)} width={230}>
    <div class="flex flex-col gap-1">
      <div class="flex flex-wrap gap-1 px-1">
        <button class="chip" onclick={() => set(() => true, `Carry ${name} on all frames`)}>all</button>
        <button class="chip" onclick={() => set(() => false, `Carry ${name} nowhere`)}>none</button>
        {#each bundles as [id, bundle] (id)}
          <button class="chip" onclick={() => set((frame) => frame.bundle === id || carriers.has(frame.id), `Carry ${name} in ${bundle.name}`)}
            >+ {bundle.name}</button
          >
        {/each}
      </div>
      <div class="flex gap-1 px-1" role="group" aria-label="Over or under">
        {#each ['over', 'under'] as const as to (to)}
          <button class="chip {place === to ? 'chip-on' : ''}" aria-pressed={place === to} onclick={() => turn(to)}>{to} their layers</button>
        {/each}
      </div>
      <div class="scroll max-h-64">
        {#each frames as frame, i (frame.id)}
          <label class="menu-row"
            ><input
              type="checkbox"
              class="checkbox checkbox-xs"
              checked={carriers.has(frame.id)}
              onchange={() =>
                set((one) => (one.id === frame.id) !== carriers.has(one.id), `${carriers.has(frame.id) ? 'Leave out' : 'Carry on'} ${frame.name}`)}
            /><span class="truncate">{i + 1} {frame.name}</span></label
          >
        {/each}
      </div>
    </div>
  </Popover>
{/if}
