<script lang="ts">
  import { stillScreen, type Screen, type Surface } from '@zany/core';
  import type { EditorSession } from '$lib/client/session.svelte';
  import { forgetThumb, paintThumb } from '$lib/shared/thumb-paint';

  /** Fainter pictures of what moves, as it is some moments before and after the present one. */
  let { session, scale }: { session: EditorSession; scale: number } = $props();

  /** Layers that are looked at: the selected ones that have keys, else all that have. */
  const moving = $derived.by(() => {
    const keyed = new Set(Object.values(session.timeline?.tracks ?? {}).map(({ layer }) => layer));
    const chosen = session.selection.filter((id) => keyed.has(id));
    return new Set(chosen.length ? chosen : keyed);
  });

  interface Ghost {
    readonly by: number;
    readonly screen: Screen;
  }

  const ghosts = $derived.by((): Ghost[] => {
    const { onion, moment, timeline, sceneId } = session;
    if (!onion || moment === null || !timeline || sceneId === null) return [];
    const steps = Array.from({ length: onion.count }, (_, i) => i + 1).flatMap((step) => [-step, step]);
    return steps.flatMap((by) => {
      const frame = moment + by * onion.apart;
      const screen = frame >= 0 && frame < timeline.length ? stillScreen(session.plain, sceneId, { frame }) : null;
      return screen ? [{ by, screen: { ...screen, surfaces: screen.surfaces.flatMap(onlyMoving) } }] : [];
    });
  });

  /** The layers at the top of a scene that are looked at, or hold one that is; no ground. */
  function onlyMoving(surface: Surface): Surface[] {
    if (surface.scene !== session.sceneId) return [];
    const holds = (shown: Surface['tops'][number]): boolean => moving.has(shown.node.key) || shown.children.some(holds);
    return [{ ...surface, background: null, tops: surface.tops.filter(holds) }];
  }

  const painted = (image: HTMLImageElement, screen: Screen) => {
    const paint = (wanted: Screen) => paintThumb(image, { screen: wanted, assetUrl: session.assetUrl, scale: scale * devicePixelRatio });
    paint(screen);
    return { update: paint, destroy: () => forgetThumb(image) };
  };
</script>

{#each ghosts as { by, screen } (by)}
  <img
    class="pointer-events-none absolute left-0 top-0"
    style:width="{screen.width * scale}px"
    style:height="{screen.height * scale}px"
    style:opacity={0.42 / Math.abs(by)}
    alt=""
    data-onion={by}
    use:painted={screen}
  />
{/each}
