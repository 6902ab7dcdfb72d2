<script lang="ts">
  import type { SceneProgram } from '@zany/core';
  import { sceneView } from './sceneView';

  interface Props {
    scene: SceneProgram | null;
    assetUrl: (asset: string) => string;
    /** The box it has to fit into, CSS px. */
    width: number;
    height: number;
    /** Drawn only while it can be seen. */
    lazy?: boolean;
    over?: readonly string[];
    pressed?: readonly string[];
    radius?: number;
  }
  let { scene, assetUrl, width, height, lazy = true, over = [], pressed = [], radius = 4 }: Props = $props();

  let seen = $state(false);
  const scale = $derived(scene ? Math.min(width / scene.scene.width, height / scene.scene.height) : 1);
  const shownWidth = $derived(scene ? scene.scene.width * scale : width);
  const shownHeight = $derived(scene ? scene.scene.height * scale : height);

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
  {#if seen && scene}
    <div class="absolute left-0 top-0 origin-top-left" style:transform="scale({scale})" use:sceneView={{ scene, assetUrl, over, pressed }}></div>
  {/if}
</div>
