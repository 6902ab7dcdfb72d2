<script lang="ts">
  import { framesPerSecond, sectionName, sectionsOf, type Program, type RunState } from '@zany/core';
  import type { Player } from '@zany/player';

  /** The time of the frame that runs as a thin seam: its sections by name, and where it is. */
  let { program, run, player }: { program: Program; run: RunState; player: Player } = $props();

  const timeline = $derived(program.scenes.get(run.frame)?.scene.timeline);
  const head = $derived(run.roots[run.frame]?.heads['']);
  const sections = $derived(timeline ? sectionsOf(timeline) : []);
  const here = $derived(head && sections.find(({ from, to }) => head.at >= from && head.at <= to));

  let at = $state(0);
  $effect(() => {
    if (!head || !here) return;
    let request = 0;
    const draw = () => {
      const passed = head.playing ? ((player.clock - head.since) * framesPerSecond(program)) / 1000 : 0;
      at = Math.min(here.to + 1, head.at + Math.max(0, passed));
      if (head.playing) request = requestAnimationFrame(draw);
    };
    draw();
    return () => cancelAnimationFrame(request);
  });

  const share = (frames: number) => `${(frames / timeline!.length) * 100}%`;
  const words = $derived(timeline && here ? sectionName(timeline, here) : '');
</script>

{#if timeline && head}
  <div
    class="relative flex h-[18px] w-full max-w-[720px] shrink-0 self-center overflow-hidden rounded-[4px] border border-[var(--line)] text-[12px] leading-[16px]"
    role="img"
    aria-label="{head.playing ? 'Playing' : 'Standing in'} {words}"
    data-run-seam={words}
  >
    {#each sections as section, i (section.from)}
      <span
        class="block overflow-hidden truncate border-r border-[var(--line)] px-1 {section === here ? 'font-bold' : 'soft'} {i % 2
          ? 'bg-[color-mix(in_srgb,var(--gold-wash)_70%,transparent)]'
          : 'bg-[color-mix(in_srgb,var(--teal-wash)_55%,transparent)]'}"
        style:width={share(section.to - section.from + 1)}>{section.label === null ? '' : sectionName(timeline, section)}</span
      >
    {/each}
    <span class="absolute top-0 h-full w-[2px] -translate-x-1/2 bg-[var(--brick)]" style:left={share(at)}></span>
  </div>
{/if}
