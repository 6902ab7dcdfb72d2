<script lang="ts">
  import { stillScreen, type Program, type SceneProgram } from '@zany/core';
  import { getDesk } from './desk.svelte';
  import { forgetThumb, paintThumb, watchSeen } from './thumb-paint';

  interface Props {
    scene: SceneProgram | null;
    /** The piece it is in; the open one if none is given. */
    program?: Program | null;
    assetUrl: (asset: string) => string;
    /** The box it has to fit into, CSS px. */
    width: number;
    height: number;
    /** How much larger it is shown than its box says. */
    zoom?: number;
    /** The state it is shown in. */
    state?: string | null;
    /** The timeline frame it is shown at. */
    frame?: number;
    radius?: number;
  }
  let { scene, program = null, assetUrl, width, height, zoom = 1, state: inState = null, frame, radius = 4 }: Props = $props();

  const desk = getDesk();
  const whole = $derived(program ?? desk?.session?.calm ?? null);

  /** It is painted only while it can be seen. */
  let seen = $state(false);
  let image: HTMLImageElement;
  const scale = $derived(scene ? Math.min(width / scene.scene.width, height / scene.scene.height) : 1);
  const shownWidth = $derived(scene ? scene.scene.width * scale : width);
  const shownHeight = $derived(scene ? scene.scene.height * scale : height);
  const screen = $derived(
    seen && scene && whole ? stillScreen(whole, scene.scene.id, { state: inState, ...(frame !== undefined && { frame }) }) : null
  );

  $effect(() => {
    if (screen) paintThumb(image, { screen, assetUrl, scale: scale * zoom * devicePixelRatio });
  });

  // An action would make the server write an inline handler, which the page's own policy forbids.
  $effect(() => {
    const node = image;
    const end = watchSeen(node, (now) => (seen = now));
    return () => {
      end();
      forgetThumb(node);
    };
  });
</script>

<img
  bind:this={image}
  class="block"
  style:width="{shownWidth}px"
  style:height="{shownHeight}px"
  style:border-radius="{radius}px"
  alt=""
  draggable="false"
/>
