<script lang="ts">
  import { startMotion, still, surfacesAt, type SceneProgram, type Transition } from '@zany/core';
  import Thumb from '$lib/shared/Thumb.svelte';

  interface Props {
    from: SceneProgram;
    to: SceneProgram;
    transition: Transition;
    assetUrl: (asset: string) => string;
    /** Where the thread starts, lit in the picture before. */
    source?: string | undefined;
  }
  let { from, to, transition, assetUrl, source }: Props = $props();

  const length = $derived(transition.type === 'cut' ? 0 : transition.ms);
  let at: number | null = $state(null);
  let playing = 0;

  const box = $derived({ width: Math.max(from.scene.width, to.scene.width), height: Math.max(from.scene.height, to.scene.height) });
  const motion = $derived(startMotion([still(from.scene.id)], to.scene.id, transition, to.scene));
  const surfaces = $derived(at === null ? [] : surfacesAt(motion, Math.min(at, Math.max(0, length - 0.01))));
  const wide = 98;
  const high = 150;
  const scale = $derived(Math.min(wide / box.width, high / box.height));
  const sourceBox = $derived(source ? from.byId.get(source)?.box : undefined);

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
  <div class="relative rounded border border-[var(--line)] bg-[var(--sheet)]">
    <Thumb scene={from} {assetUrl} width={wide} height={high} />
    {#if sourceBox}
      {@const small = Math.min(wide / from.scene.width, high / from.scene.height)}
      <span
        class="pointer-events-none absolute rounded-[3px] border-2 border-[var(--gold)]"
        style:left="{sourceBox.x * small - 1}px"
        style:top="{sourceBox.y * small - 1}px"
        style:width="{sourceBox.width * small + 2}px"
        style:height="{sourceBox.height * small + 2}px"
      ></span>
    {/if}
  </div>
  <span class="font-bold text-[var(--gold)]">→</span>
  <div class="relative overflow-hidden rounded border-2 border-[var(--gold)] bg-[var(--sheet)]">
    {#if at === null || length === 0}
      <Thumb scene={to} {assetUrl} width={wide} height={high} />
    {:else}
      <div class="relative overflow-hidden" style:width="{to.scene.width * scale}px" style:height="{to.scene.height * scale}px">
        {#each surfaces as surface (surface.frame)}
          <div
            class="absolute left-0 top-0"
            style:transform="translate({surface.x * scale}px, {surface.y * scale}px)"
            style:opacity={surface.opacity}
          >
            <Thumb
              scene={surface.frame === to.scene.id ? to : from}
              {assetUrl}
              width={(surface.frame === to.scene.id ? to : from).scene.width * scale}
              height={(surface.frame === to.scene.id ? to : from).scene.height * scale}
              lazy={false}
              radius={0}
            />
          </div>
        {/each}
      </div>
    {/if}
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
