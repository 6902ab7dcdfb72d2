<script lang="ts">
  import { CUE_WORDS, moveCue, removeCue, type TimelineCue, type Timeline } from '@zany/core';
  import type { Seam } from './seam-state.svelte';

  /** Cues on the timeline that play, pause or start over what is in a row: needles that are pulled along and taken out. */
  interface Props {
    seam: Seam;
    timeline: Timeline;
    layer: { readonly id: string; readonly name: string };
    perFrame: number;
    /** CSS px of the row. */
    height: number;
    snap: (time: number) => number;
  }
  let { seam, timeline, layer, perFrame, height, snap }: Props = $props();

  const SIGNS: Readonly<Record<TimelineCue['do'], string>> = { play: '▸', pause: '‖', 'start over': '↻' };
  const cues = $derived(
    Object.entries(timeline.cues ?? {})
      .filter(([, cue]) => cue.layer === layer.id)
      .sort(([, a], [, b]) => a.time - b.time)
  );

  function pull(event: PointerEvent, id: string, cue: TimelineCue) {
    if (event.button !== 0) return;
    event.preventDefault();
    event.stopPropagation();
    seam.session.select([layer.id]);
    (event.currentTarget as HTMLElement).focus();
    const byOf = (by: number, next: PointerEvent) => (next.altKey ? Math.round(cue.time + by) : snap(cue.time + by)) - cue.time;
    const moves = (next: PointerEvent) => seam.session.canEdit && Math.abs(next.clientX - event.clientX) >= 3;
    seam.follow(event, perFrame, {
      move: (by, next) => seam.preview(moves(next) ? (now) => moveCue(now, id, byOf(by, next)) : null),
      done: (by, next) => {
        seam.preview(null);
        if (!moves(next)) return seam.stand(cue.time);
        seam.edit(`Move a cue of ${layer.name}`, (now) => moveCue(now, id, byOf(by, next)));
      },
    });
  }

  function key(event: KeyboardEvent, id: string) {
    const way = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0;
    if (!seam.session.canEdit) return;
    if (event.key === 'Delete' || event.key === 'Backspace') seam.edit(`Remove a cue of ${layer.name}`, (now) => removeCue(now, id));
    else if (way && event.altKey) seam.edit(`Move a cue of ${layer.name}`, (now) => moveCue(now, id, way * (event.shiftKey ? 10 : 1)));
    else return;
    event.preventDefault();
    event.stopPropagation();
  }
</script>

{#each cues as [id, cue] (id)}
  <button
    class="group absolute top-0 z-[1] w-[11px] -translate-x-1/2 cursor-grab text-[9px] leading-none text-[var(--plum)]"
    style:left="{(cue.time + 0.5) * perFrame}px"
    style:height="{height}px"
    aria-label="{layer.name} {CUE_WORDS[cue.do]}, frame {cue.time + 1}"
    title="{layer.name} {CUE_WORDS[cue.do]} · Alt and arrows move it, Delete takes it out"
    data-needle={cue.do}
    onpointerdown={(event) => pull(event, id, cue)}
    onkeydown={(event) => key(event, id)}
  >
    <span class="absolute left-1/2 top-[9px] w-px -translate-x-1/2 bg-[var(--plum)]" style:height="{height - 10}px"></span>
    <span
      class="absolute left-0 top-0 block w-full rounded-full border border-[var(--plum)] bg-[var(--sheet)] text-center leading-[9px] group-focus-visible:bg-[var(--gold)]"
      >{SIGNS[cue.do]}</span
    >
  </button>
{/each}
