<script lang="ts">
  import { statesOf, type RunState } from '@zany/core';
  import { useSession } from '$lib/shared/desk.svelte';
  import CommentField from '$lib/shared/CommentField.svelte';
  import CommentList from '$lib/shared/CommentList.svelte';
  import { placeWords } from '$lib/shared/comment-place';
  import { wholeFrame, type CommentPlace, type CommentThread } from '$lib/shared/types';

  /** What people say of the piece, beside where it is walked. */
  interface Props {
    run: RunState | null;
    onjump: (frame: string) => void;
  }
  let { run, onjump }: Props = $props();

  const session = useSession();
  const { comments } = session;
  let isOpen = $state(false);

  /** Where one is: the frame, and the state that it was brought into. */
  const place: CommentPlace | null = $derived.by(() => {
    const scene = run && session.program.scenes.get(run.frame)?.scene;
    if (!scene) return null;
    const state = run.roots[scene.id]?.states[''] ?? null;
    return { ...wholeFrame(scene.id, scene.name), state: statesOf(scene).some(({ id }) => id === state) ? state : null };
  });

  async function add(body: string): Promise<boolean> {
    if (!place) return false;
    return session.comment(place, body);
  }

  function show({ place: { scene } }: CommentThread) {
    if (session.program.frameAt.has(scene)) onjump(scene);
  }
</script>

<section class="border-t border-[var(--line)]" aria-label="Comments">
  <button class="flex w-full items-center gap-2 bg-[var(--rim)] px-3.5 py-1 text-left" aria-expanded={isOpen} onclick={() => (isOpen = !isOpen)}>
    <h3 class="flex-1 text-[12px]">comments</h3>
    {#if comments.unread.length}<span class="chip chip-brick">{comments.unread.length} not seen yet</span>{/if}
    <span class="soft tabular-nums">{comments.left.length}</span>
    <span aria-hidden="true">{isOpen ? '▾' : '▸'}</span>
  </button>
  {#if isOpen}
    <div class="flex flex-col gap-2 px-3.5 py-2">
      {#if place}<CommentField label="Comment on {placeWords(session.piece, place)}" act="Comment" draft="walk" {comments} onsend={add} />{/if}
      <CommentList {session} here={run?.frame ?? null} onopen={show} />
    </div>
  {/if}
</section>
