<script lang="ts">
  import { stillScreen, type Program, type SceneProgram } from '@zany/core';
  import { getDesk } from './desk.svelte';
  import { sceneView } from './sceneView';

  interface Props {
    scene: SceneProgram | null;
    /** The piece it is in; the open one if none is given. */
    program?: Program | null;
    assetUrl: (asset: string) => string;
    /** The box it has to fit into, CSS px. */
    width: number;
    height: number;
    /** Drawn only while it can be seen. */
    lazy?: boolean;
    /** The state it is shown in. */
    state?: string | null;
    radius?: number;
  }
  let { scene, program = null, assetUrl, width, height, lazy = true, state: inState = null, radius = 4 }: Props = $props();

  const desk = getDesk();
  const whole = $derived(program ?? desk?.session?.program ?? null);

  let seen = $state(false);
  const scale = $derived(scene ? Math.min(width / scene.scene.width, height / scene.scene.height) : 1);
  const shownWidth = $derived(scene ? scene.scene.width * scale : width);
  const shownHeight = $derived(scene ? scene.scene.height * scale : height);

  const screen = $derived(seen && scene && whole ? stillScreen(whole, scene.scene.id, { state: inState }) : null);

  function watch(node: HTMLElement) {
    if (!lazy) {
      seen = true;
      return;
    }
    const observer = new IntersectionObserver(
      ([entry]) => {
        if (entry) seen = entry.isIntersecting;
      },
      { rootMargin: '200px' }
    );
    observer.observe(node);
    return { destroy: () => observer.disconnect() };
  }
</script>

<div class="relative overflow-hidden" style:width="{shownWidth}px" style:height="{shownHeight}px" style:border-radius="{radius}px" use:watch inert>
  {#if screen}
    <div class="absolute left-0 top-0 origin-top-left" style:transform="scale({scale})" use:sceneView={{ screen, assetUrl }}></div>
  {/if}
</div>
