<script lang="ts">
  import { count } from '@zany/core';
  import { useSession } from '$lib/shared/desk.svelte';
  import Thumb from '$lib/shared/Thumb.svelte';
  import type { FramePresses } from './results';

  /** A frame with what was pressed on it. */
  let { frame, presses, nothing, words }: FramePresses & { words: string } = $props();

  const session = useSession();
  const BOX = { width: 190, height: 300 };
  const scene = $derived(session.program.scenes.get(frame) ?? null);
  const size = $derived(scene?.scene ?? { name: 'a frame that is gone', width: 100, height: 100 });
  const scale = $derived(Math.min(BOX.width / size.width, BOX.height / size.height));
  const shown = $derived([...presses].sort((a, b) => Number(a.met) - Number(b.met)).slice(0, 400));
</script>

<figure class="flex flex-col gap-1.5">
  <figcaption class="max-w-[190px] truncate text-[13px]">
    <b>{size.name}</b>
    {count(presses.length, 'press', 'presses')}{nothing ? `, ${nothing} met nothing` : ''}
  </figcaption>
  <div class="relative overflow-hidden rounded-md shadow-md" style:width="{size.width * scale}px" style:height="{size.height * scale}px">
    {#if scene}<Thumb {scene} assetUrl={session.assetUrl} width={BOX.width} height={BOX.height} radius={6} />{/if}
    <svg class="absolute inset-0 h-full w-full" viewBox="0 0 {size.width} {size.height}" aria-hidden="true">
      {#each shown as { at: [x, y], met }, i (i)}
        {#if met}<circle cx={x} cy={y} r={5 / scale} fill="#0b7a75" stroke="#ffffff" stroke-width={1.5 / scale} />
        {:else}<g transform="translate({x} {y}) scale({1 / scale})" fill="none" stroke-linecap="round">
            <path d="M-5-5L5 5M5-5L-5 5" stroke="#ffffff" stroke-width="5" /><path d="M-5-5L5 5M5-5L-5 5" stroke="#b23a26" stroke-width="2.5" />
          </g>{/if}
      {/each}
    </svg>
  </div>
  {#if words}<p class="soft max-w-[190px] text-[12px]">Met nothing: {words}.</p>{/if}
</figure>
