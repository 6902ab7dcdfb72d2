<script lang="ts">
  import type { EditorSession } from '$lib/client/session.svelte';
  import { outermost, placeWords } from '$lib/shared/comment-place';
  import type { CommentPlace } from '$lib/shared/types';

  /** Pins of the comments on the open scene: at their layers, with which they move, or where they were put. */
  let { session, scale }: { session: EditorSession; scale: number } = $props();

  const SIZE = 20;
  const here = $derived(session.comments.left.filter(({ place }) => place.scene === session.sceneId));

  function spotOf({ layer, at }: CommentPlace): { x: number; y: number } {
    const box = layer === null ? null : session.scene?.byId.get(outermost(layer))?.box;
    if (box) return { x: box.x + box.width * (at?.[0] ?? 1), y: box.y + box.height * (at?.[1] ?? 0) };
    const [x, y] = at && layer === null ? at : [session.scene?.scene.width ?? 0, 0];
    return { x, y };
  }

  /** Pins at one place stand beside each other. */
  const pins = $derived.by(() => {
    const taken = new Map<string, number>();
    return here.map((one) => {
      const spot = spotOf(one.place);
      const key = `${Math.round((spot.x * scale) / 8)}/${Math.round((spot.y * scale) / 8)}`;
      const n = taken.get(key) ?? 0;
      taken.set(key, n + 1);
      return { one, x: spot.x * scale - SIZE / 2 - n * (SIZE + 2), y: spot.y * scale - SIZE / 2 };
    });
  });

  function open(id: string) {
    session.comments.open = id;
    session.panel = 'comments';
  }
</script>

{#each pins as { one, x, y } (one.id)}
  <button
    class="absolute grid place-items-center rounded-full rounded-bl-none border-2 border-white text-[11px] font-bold shadow-md {one.isUnread
      ? 'bg-[#b23a26] text-white'
      : 'bg-[#e59a00] text-[#26232c]'} {session.comments.open === one.id ? 'outline-2 outline-offset-1 outline-[var(--ink)]' : ''}"
    style:left="{x}px"
    style:top="{y}px"
    style:width="{SIZE}px"
    style:height="{SIZE}px"
    data-comment-pin={one.id}
    aria-label="Comment by {one.by} on {placeWords(session.piece, one.place)}"
    title={one.body.slice(0, 200)}
    onpointerdown={(event) => event.stopPropagation()}
    onclick={() => open(one.id)}>{one.answers.length + 1}</button
  >
{/each}
