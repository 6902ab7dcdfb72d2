<script lang="ts">
  import type { Program } from '@zany/core';
  import Thumb from '$lib/shared/Thumb.svelte';

  /** All frames to be looked at, one under the other on a phone. */
  let { program, assetUrl }: { program: Program; assetUrl: (asset: string) => string } = $props();
  let width = $state(0);
</script>

<ul class="scroll flex h-full flex-wrap content-start justify-center gap-6 p-4" bind:clientWidth={width}>
  {#each program.frames as id (id)}
    {@const scene = program.scenes.get(id)!}
    <li class="flex flex-col gap-2">
      <h2 class="text-[15px]">{scene.scene.name}</h2>
      <span class="rounded-xl shadow-md"
        ><Thumb
          {scene}
          {program}
          {assetUrl}
          width={Math.max(120, Math.min(width - 32, scene.scene.width))}
          height={scene.scene.height}
          radius={10}
        /></span
      >
    </li>
  {/each}
</ul>
