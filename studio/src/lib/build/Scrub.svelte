<script lang="ts">
  import { atRest, pictureAt, present, stillScreen, type SceneProgram, type Transition } from '@zany/core';
  import { useSession } from '$lib/shared/desk.svelte';
  import { sceneView } from '$lib/shared/sceneView';
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

  const session = useSession();
  const length = $derived(transition.type === 'cut' ? 0 : transition.ms + (transition.delay ?? 0));
  let at: number | null = $state(null);
  let playing = 0;

  const wide = 98;
  const high = 150;
  const scale = $derived(Math.min(wide / to.scene.width, high / to.scene.height));
  const sourceBox = $derived(source ? from.byId.get(source)?.box : undefined);

  /** The change as the piece will run it, to be asked for any moment of it. */
  const change = $derived.by(() => {
    if (at === null) return null;
    const [before, after] = [stillScreen(session.program, from.scene.id), stillScreen(session.program, to.scene.id)];
    if (!before || !after) return null;
    return present(atRest(before), after, [{ type: 'go', from: from.scene.id, to: to.scene.id, transition, thread: '' }], 0);
  });
  const picture = $derived(change && at !== null ? pictureAt(change, Math.min(at, Math.max(0, length - 0.01))) : null);

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
    {#if !picture}
      <Thumb scene={to} {assetUrl} width={wide} height={high} />
    {:else}
      <div class="relative overflow-hidden" style:width="{to.scene.width * scale}px" style:height="{to.scene.height * scale}px">
        <div class="absolute left-0 top-0 origin-top-left" style:transform="scale({scale})" use:sceneView={{ picture, assetUrl }}></div>
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
