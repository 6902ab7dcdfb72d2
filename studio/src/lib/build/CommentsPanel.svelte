<script lang="ts">
  import { onDestroy, untrack } from 'svelte';
  import type { EditorSession } from '$lib/client/session.svelte';
  import CommentField from '$lib/shared/CommentField.svelte';
  import CommentList from '$lib/shared/CommentList.svelte';
  import { outermost, placeWords } from '$lib/shared/comment-place';
  import { wholeFrame, type CommentPlace, type CommentThread } from '$lib/shared/types';

  /** What people say of the piece, where it belongs. */
  let { session }: { session: EditorSession } = $props();

  const comments = $derived(session.comments);
  const layer = $derived(session.selection.length === 1 ? session.scene?.byId.get(session.selection[0]!)?.layer : undefined);
  const place: CommentPlace | null = $derived(
    session.scene && {
      ...(comments.about ?? {
        ...wholeFrame(session.scene.scene.id, session.scene.scene.name),
        layer: layer?.id ?? null,
        layerName: layer?.name ?? null,
      }),
      state: session.stateId,
      moment: session.moment,
    }
  );

  // What was to be said of something is said of that alone.
  $effect(() => {
    const { sceneId, selection } = session;
    untrack(() => {
      const { about } = comments;
      const isStill = about?.scene === sceneId && (about?.layer ? selection.includes(about.layer) : selection.length === 0);
      if (about && !isStill) comments.about = null;
    });
  });
  onDestroy(() => ([comments.about, comments.isMarking] = [null, false]));

  async function add(body: string): Promise<boolean> {
    if (!place) return false;
    const { about } = comments;
    const isSaid = await session.comment(place, body);
    if (isSaid && comments.about === about) comments.about = null;
    return isSaid;
  }

  /** Shows where a comment belongs: its frame, its state, its layer. */
  function show({ place: { scene, layer: about, state } }: CommentThread) {
    if (!session.piece.scenes.has(scene)) return;
    if (session.sceneId !== scene) session.openScene(scene);
    if (state !== null && session.piece.scenes.get(scene)?.states?.[state]) session.openState(state);
    if (about !== null && session.scene?.byId.has(outermost(about))) session.select([outermost(about)]);
  }
</script>

<div role="dialog" aria-label="Comments" class="flex flex-col gap-3">
  <div class="flex items-baseline gap-2">
    <h3 class="flex-1 text-[15px]">Comments</h3>
    <button class="act act-plain" onclick={() => (session.panel = null)} aria-label="Close" title="Close (Esc)">✕</button>
  </div>
  {#if place}
    <CommentField label="Comment on {placeWords(session.piece, place)}" act="Comment" draft="new" {comments} onsend={add} />
    <div class="-mt-1.5 flex gap-1.5">
      {#if comments.isMarking}<button class="chip chip-on" onclick={() => (comments.isMarking = false)}>pull over a part of the frame…</button>
      {:else if comments.about}<button class="chip" onclick={() => (comments.about = null)}>about the whole instead</button>
      {:else}<button
          class="chip"
          title="Pull over a part of the frame that you want to say something about"
          onclick={() => (comments.isMarking = true)}>about a part of the frame</button
        >{/if}
    </div>
  {/if}
  <CommentList {session} here={session.sceneId} onopen={show} />
</div>
