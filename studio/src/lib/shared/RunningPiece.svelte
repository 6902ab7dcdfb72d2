<script lang="ts">
  import { keyOf, padButtons, Player, sendKey } from '@zany/player';
  import { fitsOccasion, stillRun, type Program, type Report, type RunState } from '@zany/core';
  import { onMount } from 'svelte';
  import { isByPointer, isTyping } from './focus';
  import RunSeam from './RunSeam.svelte';

  interface Props {
    program: Program;
    assetUrl: (asset: string) => string;
    frame?: string | null;
    /** The state that its scene begins in. */
    state?: string | null;
    /** Fingers do not hover: nothing is felt before the press. */
    touch?: boolean;
    /** Takes the focus, so that the next Tab comes to the piece. */
    grab?: boolean;
    onreport: (reports: readonly Report[], run: RunState) => void;
    /** Says that a link would open; it then opens in a new tab. */
    onlink?: (address: string) => void;
    player?: Player | null;
    /** Presses on the pad that come from outside. */
    onpad?: (take: (button: number) => void) => () => void;
    /** Layers outlined because a press on them does something. */
    live?: readonly string[];
  }
  let {
    program,
    assetUrl,
    frame = null,
    state: inState = null,
    touch = false,
    grab = false,
    onreport,
    onlink,
    onpad,
    player = $bindable(null),
    live = [],
  }: Props = $props();

  let host: HTMLElement;
  let current: RunState | null = $state.raw(null);

  const hearsKey = ({ piece }: Program, key: string) =>
    [...piece.threads.values()].some(({ enabled, cue }) => enabled && fitsOccasion(cue, { type: 'key', key }));

  function openLink(address: string) {
    onlink?.(address);
    if (/^https?:/i.test(address)) window.open(address, '_blank', 'noopener,noreferrer');
    else location.href = address;
  }

  onMount(() => {
    // A press that ends the run takes the focus from what runs, which is an event too, in the middle of taking it away.
    let isGone = false;
    const tell: typeof onreport = (reports, run) =>
      queueMicrotask(() => {
        if (isGone) return;
        current = run;
        onreport(reports, run);
      });
    const made = new Player(host, program, { assetUrl, openLink, onReport: tell, ...(frame && { frame }) });
    player = made;
    if (grab) host.focus({ preventScroll: true });
    const begun = frame && inState ? stillRun(program, frame, { state: inState }) : null;
    if (begun) made.resume(begun);
    else if (made.state) onreport([], (current = made.state));
    const keys = (event: KeyboardEvent) => {
      const key = keyOf(event);
      const target = event.target as HTMLElement;
      if (key === null || event.defaultPrevented || isTyping(target) || ['Escape', 'Ctrl+k'].includes(key)) return;
      // A button beside the piece that keys have come to keeps its keys; one that was clicked does not.
      if (!host.contains(target) && target !== document.body && !isByPointer()) return;
      // Tab goes from thing to thing; it is no part of a walk unless the piece waits for it.
      if (event.key === 'Tab' && !hearsKey(made.piece, key)) return;
      sendKey(made, event);
    };
    addEventListener('keydown', keys);
    const unpad = onpad?.((button) => made.send({ type: 'pad', button }));
    return () => {
      isGone = true;
      removeEventListener('keydown', keys);
      unpad?.();
      made.destroy();
      player = null;
    };
  });

  $effect(() => player?.update(program));

  const unfelt = (event: PointerEvent) => touch && event.buttons === 0 && event.stopPropagation();

  const pad = $derived(padButtons(program));

  $effect(() => {
    const elements = live.flatMap((id) => player?.elementOf(id) ?? []);
    for (const element of elements) element.style.outline = '2px dashed var(--teal)';
    return () => elements.forEach((element) => (element.style.outline = ''));
  });
</script>

<div class="flex h-full w-full flex-col gap-3">
  <div
    bind:this={host}
    class="relative min-h-0 w-full flex-1 {touch ? 'running-touch' : ''}"
    data-running
    tabindex="-1"
    onpointermovecapture={unfelt}
    onpointerovercapture={unfelt}
  ></div>
  {#if player && current}<RunSeam {program} run={current} {player} />{/if}
  {#if pad.length}
    <div class="flex items-center justify-center gap-2" role="group" aria-label="Pad">
      <span class="soft">Pad, also by digit keys</span>
      {#each pad as button (button)}
        <button
          class="h-11 w-11 rounded-full border-2 border-[var(--line)] bg-[var(--sheet)] text-[16px] font-bold hover:border-[var(--teal)] active:bg-[var(--teal-wash)]"
          aria-label="Pad button {button}"
          onclick={() => player?.send({ type: 'pad', button })}>{button}</button
        >
      {/each}
    </div>
  {/if}
</div>
