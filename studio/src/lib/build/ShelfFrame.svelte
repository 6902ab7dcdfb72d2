<script lang="ts">
  import { FRAME_TYPE } from './acts';
  import RenameField from '$lib/shared/RenameField.svelte';
  import Thumb from '$lib/shared/Thumb.svelte';
  import type { EditorSession } from '$lib/client/session.svelte';
  import { setFrame } from './acts';
  import WorstMark from './WorstMark.svelte';

  /** One frame of the shelf. */
  interface Props {
    session: EditorSession;
    id: string;
    place: number;
    worst: 'must' | 'look' | undefined;
    /** Its name alone, in a row. */
    isSmall: boolean;
    /** Where what is dragged over it would go. */
    drops: 'before' | 'after' | 'in' | null;
    /** The frame that is being renamed. */
    renaming: string | null;
    onpick: (event: MouseEvent) => void;
    onmenu: (anchor: HTMLElement) => void;
    onstep: (event: KeyboardEvent) => void;
    ondrag: () => void;
    /** Something is dragged over it: over its upper half, it would go before it. */
    ondragover: (before: boolean) => void;
    ondragend: () => void;
  }
  let { session, id, place, isSmall, worst, drops, renaming = $bindable(), onpick, onmenu, onstep, ondrag, ondragover, ondragend }: Props = $props();

  const program = $derived(session.program.scenes.get(id)!);
  const frame = $derived(program.scene);
  const isOpen = $derived(id === session.sceneId);
  const kind = $derived(session.piece.head.kinds?.[frame.kind ?? '']);
  const isStart = $derived(session.piece.head.start.includes(id));

  let box: HTMLElement;

  /** The open frame comes into view, however it was opened. */
  $effect(() => {
    if (isOpen) requestAnimationFrame(() => box?.scrollIntoView({ block: 'nearest' }));
  });
</script>

{#snippet name()}
  {isStart ? '▸ ' : ''}{#if kind}<span style:color={kind.color} title={kind.name}>{kind.mark}</span>&nbsp;{/if}{frame.ending ? '◼ ' : ''}{place + 1}
  {frame.name}
{/snippet}

<div
  bind:this={box}
  class="relative flex w-full flex-col items-center pr-1 {isSmall && frame.bundle !== undefined ? 'pl-3' : 'pl-1'} {isSmall ? '' : 'max-w-[100px]'}"
  role="group"
  aria-label={frame.name}
  data-shelf-frame={id}
  draggable={session.canEdit}
  ondragstart={(event) => {
    event.dataTransfer?.setData(FRAME_TYPE, id);
    ondrag();
  }}
  ondragover={(event) => {
    const { top, height } = event.currentTarget.getBoundingClientRect();
    ondragover(event.clientY < top + height / 2);
  }}
  {ondragend}
>
  {#if drops}<span class="absolute left-1 right-1 h-0.5 bg-[var(--gold)] {drops === 'before' ? '-top-1' : '-bottom-1'}"></span>{/if}
  {#if renaming !== id || !isSmall}
    <button
      class="border-2 {isSmall
        ? `flex h-[26px] w-full items-center gap-1 rounded-md px-1 text-[12px] ${isOpen ? 'bg-[var(--sheet)] font-semibold' : 'soft hover:bg-[var(--sheet)]'}`
        : 'relative grid max-h-[84px] place-items-center rounded-md bg-[var(--sheet)] p-[2px]'} {isOpen
        ? 'border-[var(--gold)]'
        : session.frameSelection.includes(id)
          ? 'border-[var(--plum)]'
          : 'border-transparent'}"
      aria-current={isOpen ? 'true' : undefined}
      aria-label="Open {frame.name}"
      title={isSmall ? frame.name : undefined}
      onclick={onpick}
      onkeydown={onstep}
      ondblclick={() => session.canEdit && (renaming = id)}
      oncontextmenu={(event) => {
        event.preventDefault();
        if (!session.frameSelection.includes(id)) session.openScene(id);
        onmenu(event.currentTarget);
      }}
    >
      {#if isSmall}
        <span class="min-w-0 flex-1 truncate text-left {frame.draft ? 'italic' : ''}">{@render name()}</span>
        <WorstMark {worst} {isSmall} />
      {:else}
        <span class={frame.draft ? 'opacity-70 outline-2 outline-dashed outline-[var(--soft)]' : ''}
          ><Thumb scene={program} assetUrl={session.assetUrl} width={56} height={76} /></span
        >
        <span class="absolute right-0.5 top-0.5"><WorstMark {worst} {isSmall} /></span>
      {/if}
    </button>
  {/if}
  {#if renaming === id}
    <RenameField
      name={frame.name}
      label="Name of the frame"
      class="h-6 w-full !px-1 text-[12px]"
      onname={(now) => setFrame(session, id, `Rename ${frame.name}`, 'name', now)}
      onclose={() => (renaming = null)}
    />
  {:else if !isSmall}
    <span class="w-full truncate text-center text-[12px] {isOpen ? '' : 'soft'}" title={frame.name}>{@render name()}</span>
  {/if}
</div>
