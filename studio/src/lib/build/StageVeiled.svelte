<script lang="ts">
  import { stillLayer, unveiled, type Item, type Screen } from '@zany/core';
  import { sceneView } from '$lib/shared/sceneView';
  import type { EditorSession } from '$lib/client/session.svelte';

  /** What is selected and not to be seen just now, faintly where it stands: hidden by itself, a state, a binding, or its time. */
  interface Props {
    session: EditorSession;
    selected: readonly Item[];
    /** What the stage shows. */
    screen: Screen | null;
    scale: number;
  }
  let { session, selected, screen, scale }: Props = $props();

  const MOST = 20;

  const veiled = $derived.by(() => {
    if (!selected.length || !screen) return [];
    const seen = new Set(screen.surfaces.flatMap(({ all }) => all.map(({ node }) => node.key)));
    return selected.filter(({ layer }) => !seen.has(layer.id)).slice(0, MOST);
  });
  const shown = $derived.by(() => {
    const { sceneId } = session;
    if (sceneId === null || veiled.length === 0) return [];
    const ids = veiled.map(({ layer }) => layer.id);
    const program = unveiled(session.seenProgram, sceneId, ids);
    return veiled.flatMap(({ layer, box }) => {
      const picture = stillLayer(program, sceneId, layer.id);
      return picture ? [{ id: layer.id, box, picture }] : [];
    });
  });
</script>

{#each shown as { id, box, picture } (id)}
  <div
    class="pointer-events-none absolute outline-1 outline-dashed outline-[var(--soft)]"
    style:left="{box.x * scale}px"
    style:top="{box.y * scale}px"
    style:width="{box.width * scale}px"
    style:height="{box.height * scale}px"
    data-veiled={id}
  >
    <div class="origin-top-left opacity-45" style:transform="scale({scale})" use:sceneView={{ screen: picture, assetUrl: session.assetUrl }}></div>
  </div>
{/each}
