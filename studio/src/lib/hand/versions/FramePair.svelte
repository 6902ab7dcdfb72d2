<script lang="ts">
  import type { LookChange, Program, SceneChange } from '@zany/core';
  import Thumb from '$lib/shared/Thumb.svelte';

  /** A frame as it was and as it is, side by side or one laid over the other; what differs is outlined in both. */
  interface Props {
    change: SceneChange;
    before: Program;
    after: Program;
    assetUrl: (asset: string) => string;
    names: { readonly before: string; readonly after: string };
  }
  let { change, before, after, assetUrl, names }: Props = $props();

  const BOX = { width: 220, height: 340 };
  /** Laid over each other they may be larger. */
  const LARGE = { width: 460, height: 560 };

  let isLaid = $state(false);
  /** How much of the earlier one is seen, from the left. */
  let share = $state(50);
  let at = $state(0);

  const looks = $derived<readonly Pick<LookChange, 'state' | 'name' | 'before' | 'after'>[]>(
    change.looks.length ? change.looks : [{ state: null, name: null, before: [], after: [] }]
  );
  const look = $derived(looks[at] ?? looks[0]!);
  const box = $derived(isLaid ? LARGE : BOX);
  const sides = $derived([
    { which: 'before', name: names.before, program: before, scene: before.scenes.get(change.scene) ?? null, boxes: look.before },
    { which: 'after', name: names.after, program: after, scene: after.scenes.get(change.scene) ?? null, boxes: look.after },
  ] as const);
  const canLay = $derived(sides.every(({ scene }) => scene !== null));
  const size = $derived((sides[1].scene ?? sides[0].scene)?.scene ?? { width: 1, height: 1 });
  const scale = $derived(Math.min(box.width / size.width, box.height / size.height));
</script>

{#snippet side({ which, program, scene, boxes }: (typeof sides)[number])}
  {#if scene}
    {@const own = Math.min(box.width / scene.scene.width, box.height / scene.scene.height)}
    <div class="relative" style:width="{scene.scene.width * own}px" style:height="{scene.scene.height * own}px">
      <Thumb {scene} {program} {assetUrl} width={box.width} height={box.height} state={look.state} radius={6} />
      <svg class="absolute inset-0 h-full w-full overflow-visible" viewBox="0 0 {scene.scene.width} {scene.scene.height}" aria-hidden="true">
        {#each boxes as { x, y, width, height }, i (i)}
          <rect
            x={x - 2 / own}
            y={y - 2 / own}
            width={width + 4 / own}
            height={height + 4 / own}
            rx={3 / own}
            fill="none"
            stroke="#ffffff"
            stroke-width={4 / own}
            opacity="0.8"
          />
          <rect
            x={x - 2 / own}
            y={y - 2 / own}
            width={width + 4 / own}
            height={height + 4 / own}
            rx={3 / own}
            fill="none"
            stroke={which === 'before' ? '#b3730a' : '#0b7a75'}
            stroke-width={2 / own}
            stroke-dasharray={which === 'before' ? `${7 / own} ${4 / own}` : undefined}
          />
        {/each}
      </svg>
    </div>
  {:else}
    <div
      class="soft grid place-items-center rounded-md border-2 border-dashed border-[var(--line)] text-[13px]"
      style:width="{size.width * scale}px"
      style:height="{size.height * scale}px"
    >
      not there
    </div>
  {/if}
{/snippet}

<div class="flex flex-col gap-2">
  {#if looks.length > 1}
    <div class="flex flex-wrap gap-1.5" role="group" aria-label="State in which {change.name} is compared">
      {#each looks as one, i (one.state)}
        <button class="chip {at === i ? 'chip-gold' : ''}" aria-pressed={at === i} onclick={() => (at = i)}>{one.name ?? 'as it begins'}</button>
      {/each}
    </div>
  {/if}
  {#if isLaid && canLay}
    <div class="grid w-max">
      <div class="col-start-1 row-start-1 shadow-md">{@render side(sides[1])}</div>
      <div class="col-start-1 row-start-1" style:clip-path="inset(-8px {100 - share}% -8px -8px)">{@render side(sides[0])}</div>
      <div class="pointer-events-none relative col-start-1 row-start-1 border-r-2 border-dashed border-[var(--gold)]" style:width="{share}%"></div>
    </div>
    <label class="flex items-center gap-3 text-[13px]" style:width="{size.width * scale}px">
      <span class="min-w-0 truncate">{names.before}</span>
      <input
        class="range range-xs flex-1"
        type="range"
        min="0"
        max="100"
        bind:value={share}
        aria-label="How much of {change.name} as it was is seen, in per cent"
      />
      <span class="min-w-0 truncate">{names.after}</span>
    </label>
  {:else}
    <div class="flex flex-wrap gap-4">
      {#each sides as one (one.which)}
        <figure class="flex flex-col gap-1">
          <figcaption class="soft max-w-[220px] truncate text-[12.5px]">{one.name}</figcaption>
          <div class="w-max rounded-md shadow-md">{@render side(one)}</div>
        </figure>
      {/each}
    </div>
  {/if}
  {#if canLay}
    <button class="chip self-start" aria-pressed={isLaid} onclick={() => (isLaid = !isLaid)}>{isLaid ? 'side by side' : 'one over the other'}</button>
  {/if}
</div>
