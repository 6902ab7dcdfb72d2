<script lang="ts">
  import type { EditorSession } from '$lib/client/session.svelte';
  import CommentTag from '$lib/shared/CommentTag.svelte';
  import { outermost, placeWords } from '$lib/shared/comment-place';
  import type { CommentPlace } from '$lib/shared/types';

  /** Tags of the comments on the open scene: at their layers, with which they move, or where they were put. */
  let { session, scale }: { session: EditorSession; scale: number } = $props();

  /** How high a tag is, and how far from each other those at one place stand. CSS px. */
  const HEIGHT = 20;
  const here = $derived(session.comments.left.filter(({ place }) => place.scene === session.sceneId));

  function spotOf({ layer, at }: CommentPlace): { x: number; y: number } {
    const box = layer === null ? null : session.scene?.byId.get(outermost(layer))?.box;
    if (box) return { x: box.x + box.width * (at?.[0] ?? 1), y: box.y + box.height * (at?.[1] ?? 0) };
    const [x, y] = at && layer === null ? at : [session.scene?.scene.width ?? 0, 0];
    return { x, y };
  }

  /** Tags at one place hang under each other. */
  const pins = $derived.by(() => {
    const taken = new Map<string, number>();
    return here.map((one) => {
      const spot = spotOf(one.place);
      const key = `${Math.round((spot.x * scale) / 8)}/${Math.round((spot.y * scale) / 8)}`;
      const n = taken.get(key) ?? 0;
      taken.set(key, n + 1);
      return { one, x: spot.x * scale, y: spot.y * scale - HEIGHT / 2 + n * (HEIGHT + 2) };
    });
  });

  function open(id: string) {
    session.comments.open = id;
    session.panel = 'comments';
  }
</script>

{#each pins as { one, x, y } (one.id)}
  <span class="absolute" style:left="{x}px" style:top="{y}px" data-comment-pin={one.id}>
    <CommentTag
      answers={one.answers.length}
      isUnread={one.isUnread}
      isOpen={session.comments.open === one.id}
      label="Comment by {one.by} on {placeWords(session.piece, one.place)}"
      title={one.body.slice(0, 200)}
      onclick={() => open(one.id)}
    />
  </span>
{/each}
