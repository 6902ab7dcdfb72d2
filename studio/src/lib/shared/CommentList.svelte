<script lang="ts">
  import { asksNoMore, askFor, groupedBy } from '@zany/core';
  import type { EditorSession } from '$lib/client/session.svelte';
  import CommentCard from './CommentCard.svelte';
  import { placeWords } from './comment-place';
  import { commentWords } from './comment-words';
  import { spokenTo } from './mentions';
  import type { CommentThread } from './types';

  /** What people say of the piece, by frames, sifted: one of them open to be answered, resolved and made a loose end. */
  interface Props {
    session: EditorSession;
    /** The frame that is looked at. */
    here: string | null;
    /** One was opened: where it belongs is to be shown. */
    onopen: (one: CommentThread) => void;
  }
  let { session, here, onopen }: Props = $props();

  const comments = $derived(session.comments);
  type Sieve = 'open' | 'here' | 'unread' | 'at me' | 'resolved';
  let sieve: Sieve = $state('open');

  const sieves: Readonly<Record<Sieve, (one: CommentThread) => boolean>> = {
    open: (one) => one.resolvedBy === null,
    here: (one) => one.resolvedBy === null && one.place.scene === here,
    unread: (one) => one.isUnread,
    'at me': (one) => [one, ...one.answers].some(({ body }) => spokenTo(body, comments.people).includes(session.person.name)),
    resolved: (one) => one.resolvedBy !== null,
  };
  const shown = $derived(comments.list.filter((one) => sieves[sieve](one) || one.id === comments.open));
  const byFrame = $derived([...groupedBy(shown, ({ place }) => place.scene)]);

  /** Of what was said it is a loose end of the piece, or no more. */
  function beLooseEnd({ id, by, body, place: { scene, layer, thread } }: CommentThread, isOne: boolean) {
    const { piece } = session;
    const about = { scene, ...(layer !== null && { layer }), ...(thread !== null && { thread }) };
    if (isOne) session.edit('Make a comment a loose end', askFor(piece, id, { words: commentWords(body), by, ...about }));
    else session.edit('Say that it is no loose end', asksNoMore(piece, id));
  }

  function open(one: CommentThread) {
    if (comments.open === one.id) return void (comments.open = null);
    comments.open = one.id;
    onopen(one);
  }

  // What is looked at has been seen.
  $effect(() => {
    const seen = comments.list.find((one) => one.id === comments.open && one.isUnread);
    if (seen) void comments.see([seen.id]);
  });
</script>

<div class="flex flex-wrap gap-1" role="group" aria-label="Which comments">
  {#each Object.keys(sieves) as Sieve[] as one (one)}
    {@const n = comments.list.filter(sieves[one]).length}
    <button class="chip {sieve === one ? 'chip-on' : ''}" aria-pressed={sieve === one} onclick={() => (sieve = one)}>{one}{n ? ` ${n}` : ''}</button>
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
