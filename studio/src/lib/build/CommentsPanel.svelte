<script lang="ts">
  import { onDestroy, untrack } from 'svelte';
  import { asksNoMore, askFor, groupedBy } from '@zany/core';
  import type { EditorSession } from '$lib/client/session.svelte';
  import CommentCard from '$lib/shared/CommentCard.svelte';
  import CommentField from '$lib/shared/CommentField.svelte';
  import { outermost, placeWords } from '$lib/shared/comment-place';
  import { commentWords } from '$lib/shared/comment-words';
  import { spokenTo } from '$lib/shared/mentions';
  import { wholeFrame, type CommentPlace, type CommentThread } from '$lib/shared/types';

  /** What people say of the piece, where it belongs. */
  let { session }: { session: EditorSession } = $props();

  const comments = $derived(session.comments);
  type Sieve = 'open' | 'here' | 'unread' | 'at me' | 'resolved';
  let sieve: Sieve = $state('open');

  const sieves: Readonly<Record<Sieve, (one: CommentThread) => boolean>> = {
    open: (one) => one.resolvedBy === null,
    here: (one) => one.resolvedBy === null && one.place.scene === session.sceneId,
    unread: (one) => one.isUnread,
    'at me': (one) => [one, ...one.answers].some(({ body }) => spokenTo(body, comments.people).includes(session.person.name)),
    resolved: (one) => one.resolvedBy !== null,
  };
  const shown = $derived(comments.list.filter((one) => sieves[sieve](one) || one.id === comments.open));
  const byFrame = $derived([...groupedBy(shown, ({ place }) => place.scene)]);

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

  /** Of what was said it is a loose end of the piece, or no more. */
  function beLooseEnd({ id, by, body, place: { scene, layer, thread } }: CommentThread, isOne: boolean) {
    const { piece } = session;
    const about = { scene, ...(layer !== null && { layer }), ...(thread !== null && { thread }) };
    if (isOne) session.edit('Make a comment a loose end', askFor(piece, id, { words: commentWords(body), by, ...about }));
    else session.edit('Say that it is no loose end', asksNoMore(piece, id));
  }

  async function add(body: string): Promise<boolean> {
    if (!place) return false;
    const { about } = comments;
    const answer = await comments.add(place, body);
    if (!answer.ok) session.notify(answer.error.sentence);
    else comments.open = answer.value.id;
    if (answer.ok && comments.about === about) comments.about = null;
    return answer.ok;
  }

  /** Opens a comment where it belongs: its frame, its state, its layer. */
  function open(one: CommentThread) {
    if (comments.open === one.id) return void (comments.open = null);
    comments.open = one.id;
    const { scene, layer: about, state } = one.place;
    if (!session.piece.scenes.has(scene)) return;
    if (session.sceneId !== scene) session.openScene(scene);
    if (state !== null && session.piece.scenes.get(scene)?.states?.[state]) session.openState(state);
    if (about !== null && session.scene?.byId.has(outermost(about))) session.select([outermost(about)]);
  }

  // What is looked at has been seen.
  $effect(() => {
    const seen = comments.list.find((one) => one.id === comments.open && one.isUnread);
    if (seen) void comments.see([seen.id]);
  });
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
  <div class="flex flex-wrap gap-1" role="group" aria-label="Which comments">
    {#each Object.keys(sieves) as Sieve[] as one (one)}
      {@const n = comments.list.filter(sieves[one]).length}
      <button class="chip {sieve === one ? 'chip-on' : ''}" aria-pressed={sieve === one} onclick={() => (sieve = one)}>{one}{n ? ` ${n}` : ''}</button
      >
    {/each}
  </div>
  {#if comments.unread.length > 1}
    <button class="soft self-start underline" onclick={() => comments.see(comments.unread.map(({ id }) => id))}>I have seen all of them</button>
  {/if}
  {#each byFrame as [scene, list] (scene)}
    <section class="flex flex-col gap-1" aria-label={session.piece.scenes.get(scene)?.name ?? list[0]!.place.sceneName}>
      {#each list as one (one.id)}
        <div class="rounded-lg border border-[var(--line)] {comments.open === one.id ? 'bg-[var(--rim)]' : ''}">
          <button class="flex w-full items-baseline gap-2 px-2.5 py-1.5 text-left" aria-expanded={comments.open === one.id} onclick={() => open(one)}>
            {#if one.isUnread}<span class="h-2 w-2 shrink-0 self-center rounded-full bg-[var(--brick)]" role="img" aria-label="not seen yet"
              ></span>{/if}
            <span class="min-w-0 flex-1">
              <span class="soft block truncate text-[12px]">{placeWords(session.piece, one.place)}</span>
              {#if comments.open !== one.id}<span class="block truncate"><b>{one.by}</b> {commentWords(one.body) || 'deleted'}</span>{/if}
            </span>
            {#if one.answers.length}<span class="chip">{one.answers.length}</span>{/if}
          </button>
          {#if comments.open === one.id}
            <div class="px-2.5 pb-2.5">
              <CommentCard
                thread={one}
                {comments}
                mayResolve
                looseEnd={session.canEdit ? { isOne: one.id in (session.piece.head.asked ?? {}), onchange: (isOne) => beLooseEnd(one, isOne) } : null}
                onproblem={(sentence) => session.notify(sentence)}
              />
            </div>
          {/if}
        </div>
      {/each}
    </section>
  {:else}<p class="soft">{comments.isKnown ? 'None here.' : 'Looking…'}</p>{/each}
</div>
