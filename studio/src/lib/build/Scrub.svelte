<script lang="ts">
  import { pictureAt, atRest, type Rehearsal, type Screen } from '@zany/core';
  import { sceneView } from '$lib/shared/sceneView';

  interface Props {
    rehearsal: Rehearsal;
    assetUrl: (asset: string) => string;
    /** Where the thread starts, lit in the picture before. */
    source?: { x: number; y: number; width: number; height: number } | undefined;
    /** The room for each of the two pictures, CSS px. */
    wide?: number;
    high?: number;
  }
  let { rehearsal, assetUrl, source, wide = 98, high = 150 }: Props = $props();

  const length = $derived(Math.round(rehearsal.length));
  let at: number | null = $state(null);
  let playing = 0;

  const scaleOf = (screen: Screen) => Math.min(wide / screen.width, high / screen.height);
  const small = $derived(scaleOf(rehearsal.before));
  const big = $derived(scaleOf(rehearsal.after));
  /** Before and after are still; between them is what the piece itself would show at that moment. */
  const still = (screen: Screen) => pictureAt(atRest(screen), 0);
  const picture = $derived(at === null || at >= length ? still(rehearsal.after) : rehearsal.at(at));

  function play() {
    cancelAnimationFrame(playing);
    const began = performance.now();
    const tick = () => {
      const passed = performance.now() - began;
      at = Math.min(length, passed);
      if (passed < length + 350) playing = requestAnimationFrame(tick);
      else at = null;
    };
    tick();
  }
</script>

<div class="flex items-center gap-1.5">
  <div class="relative overflow-hidden rounded border border-[var(--line)] bg-[var(--sheet)]">
    <div class="relative overflow-hidden" style:width="{rehearsal.before.width * small}px" style:height="{rehearsal.before.height * small}px">
      <div
        class="absolute left-0 top-0 origin-top-left"
        style:transform="scale({small})"
        use:sceneView={{ screen: rehearsal.before, assetUrl }}
      ></div>
    </div>
    {#if source}<span
        class="pointer-events-none absolute rounded-[3px] border-2 border-[var(--gold)]"
        style:left="{source.x * small - 1}px"
        style:top="{source.y * small - 1}px"
        style:width="{source.width * small + 2}px"
        style:height="{source.height * small + 2}px"
      ></span>{/if}
  </div>
  <span class="font-bold text-[var(--gold)]">→</span>
  <div class="relative overflow-hidden rounded border-2 border-[var(--gold)] bg-[var(--sheet)]">
    <div class="relative overflow-hidden" style:width="{rehearsal.after.width * big}px" style:height="{rehearsal.after.height * big}px">
      <div class="absolute left-0 top-0 origin-top-left" style:transform="scale({big})" use:sceneView={{ picture, assetUrl }}></div>
    </div>
  </div>
</div>
{#if length > 0}
  <div class="mt-1.5 flex items-center gap-2">
    <button class="text-[var(--teal)]" aria-label="Play the transition" onclick={play}>▶</button>
    <input
      class="slide min-w-0 flex-1"
      type="range"
      min="0"
      max={length}
      step="1"
      value={at ?? length}
      aria-label="Scrub the transition"
      oninput={(event) => (at = event.currentTarget.valueAsNumber)}
      onchange={() => (at = at === length ? null : at)}
    />
    <span class="soft w-[86px] text-right tabular-nums">{Math.round(at ?? length)} / {length} ms</span>
  </div>
{/if}
