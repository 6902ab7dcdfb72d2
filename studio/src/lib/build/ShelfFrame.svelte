<script lang="ts">
  import RenameField from '$lib/shared/RenameField.svelte';
  import Thumb from '$lib/shared/Thumb.svelte';
  import type { EditorSession } from '$lib/client/session.svelte';
  import { setFrame } from './acts';

  /** One frame of the shelf. */
  interface Props {
    session: EditorSession;
    id: string;
    place: number;
    worst: 'must' | 'look' | undefined;
    dropsHere: boolean;
    /** The frame that is being renamed. */
    renaming: string | null;
    onpick: (event: MouseEvent) => void;
    onmenu: (anchor: HTMLElement) => void;
    ondrag: () => void;
    /** Something is dragged over it: over its upper half, it would go before it. */
    ondragover: (before: boolean) => void;
    ondragend: () => void;
  }
  let { session, id, place, worst, dropsHere, renaming = $bindable(), onpick, onmenu, ondrag, ondragover, ondragend }: Props = $props();

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

<div
  bind:this={box}
  class="relative flex w-full max-w-[100px] flex-col items-center px-1"
  role="group"
  aria-label={frame.name}
  data-shelf-frame={id}
  draggable={session.canEdit}
  ondragstart={ondrag}
  ondragover={(event) => {
    const { top, height } = event.currentTarget.getBoundingClientRect();
    ondragover(event.clientY < top + height / 2);
  }}
  {ondragend}
>
  {#if dropsHere}<span class="absolute -top-1.5 left-1 right-1 h-0.5 bg-[var(--gold)]"></span>{/if}
  <button
    class="relative grid max-h-[84px] place-items-center rounded-md border-2 bg-[var(--sheet)] p-[2px] {isOpen
      ? 'border-[var(--gold)]'
      : session.frameSelection.includes(id)
        ? 'border-[var(--plum)]'
        : 'border-transparent'}"
    aria-current={isOpen ? 'true' : undefined}
    aria-label="Open {frame.name}"
    onclick={onpick}
    ondblclick={() => session.canEdit && (renaming = id)}
    oncontextmenu={(event) => {
      event.preventDefault();
      if (!session.frameSelection.includes(id)) session.openScene(id);
      onmenu(event.currentTarget);
    }}
  >
    <span class={frame.draft ? 'opacity-70 outline-2 outline-dashed outline-[var(--soft)]' : ''}
      ><Thumb scene={program} assetUrl={session.assetUrl} width={56} height={76} /></span
    >
    {#if worst}<span
        class="absolute right-0.5 top-0.5 grid h-3.5 w-3.5 place-items-center rounded-full text-[9px] font-bold text-white {worst === 'must'
          ? 'bg-[var(--brick)]'
          : 'bg-[var(--gold-text)]'}"
        title={worst === 'must' ? 'something must be fixed' : 'worth a look'}>{worst === 'must' ? '×' : '!'}</span
      >{/if}
  </button>
  {#if renaming === id}
    <RenameField
      name={frame.name}
      label="Name of the frame"
      class="h-5 w-full !px-1 text-[11px]"
      onname={(name) => setFrame(session, id, `Rename ${frame.name}`, 'name', name)}
      onclose={() => (renaming = null)}
    />
  {:else}
    <span class="w-full truncate text-center text-[11.5px] {isOpen ? '' : 'soft'}" title={frame.name}
      >{isStart ? '▸ ' : ''}{#if kind}<span style:color={kind.color} title={kind.name}>{kind.mark}</span>&nbsp;{/if}{frame.ending ? '◼ ' : ''}{place +
        1}
      {frame.name}</span
    >
  {/if}
</div>
