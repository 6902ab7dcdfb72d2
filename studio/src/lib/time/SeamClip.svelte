<script lang="ts">
  import { sectionsOf, type Timeline } from '@zany/core';

  /** The sections of a placed part in small, at the length they play; what comes round is paler, what is cut off is not there. */
  interface Props {
    inner: Timeline;
    /** While the part is there: its first and last frame. */
    from: number;
    to: number;
    perFrame: number;
  }
  let { inner, from, to, perFrame }: Props = $props();

  /** More rounds than can be told apart are drawn as one. */
  const MOST_ROUNDS = 60;

  const room = $derived(to - from + 1);
  const rounds = $derived(inner.loop ? Math.min(MOST_ROUNDS, Math.ceil(room / inner.length)) : 1);
  const pieces = $derived(
    Array.from({ length: rounds }, (_, round) =>
      sectionsOf(inner).flatMap((section, n) => {
        const begin = round * inner.length + section.from;
        const frames = Math.min(room, round * inner.length + section.to + 1) - begin;
        const name = section.label === null ? '' : (inner.labels?.[section.label]?.name ?? '');
        return frames > 0 ? [{ begin, frames, name, isOdd: n % 2 === 1, round }] : [];
      })
    ).flat()
  );
</script>

{#each pieces as { begin, frames, name, isOdd, round } (begin)}
  <span
    class="pointer-events-none absolute bottom-[2px] h-[7px] overflow-hidden border-r border-[var(--plum)] text-[8px] leading-[7px] {isOdd
      ? 'bg-[var(--plum-wash)]'
      : 'bg-[color-mix(in_srgb,var(--plum-wash)_55%,transparent)]'} {round ? 'opacity-50' : ''}"
    style:left="{(from + begin) * perFrame}px"
    style:width="{frames * perFrame}px"
    title={name}
    data-inner={name}
    data-round={round}
  ></span>
{/each}
