<script lang="ts">
  import type { Comments } from '$lib/client/comments.svelte';
  import type { Comment, CommentThread } from '$lib/shared/types';
  import CommentField from './CommentField.svelte';
  import Markdown from './Markdown.svelte';
  import { momentOf } from './moments';

  interface Props {
    thread: CommentThread;
    comments: Comments;
    /** Whether it can be resolved, and own words changed and deleted. */
    mayResolve?: boolean;
    /** Makes a loose end of it, or says that it is none any more; null where nobody may. */
    looseEnd?: { readonly isOne: boolean; readonly onchange: (isOne: boolean) => void } | null;
    onproblem: (sentence: string) => void;
  }
  let { thread, comments, mayResolve = false, looseEnd = null, onproblem }: Props = $props();

  /** The comment that is written anew. */
  let changing: string | null = $state(null);

  async function say(asked: Promise<{ ok: true } | { ok: false; error: { sentence: string } }>): Promise<boolean> {
    const answer = await asked;
    if (!answer.ok) onproblem(answer.error.sentence);
    return answer.ok;
  }
</script>

{#snippet one(comment: Comment)}
  <div class="flex flex-col gap-0.5">
    <p class="flex items-baseline gap-2">
      <b>{comment.by}</b>{#if comment.isGuest}<span class="soft">by a link</span>{/if}
      <span class="soft flex-1 text-[12px]">{momentOf(comment.made)}{comment.changed && comment.body ? ' · changed' : ''}</span>
      {#if mayResolve && comment.isMine && comment.body}
        <button class="soft text-[12px] underline" onclick={() => (changing = comment.id)}>change</button>
        <button class="soft text-[12px] underline" onclick={() => say(comments.remove(comment.id))}>delete</button>
      {/if}
    </p>
    {#if changing === comment.id}
      <CommentField
        label="Comment"
        text={comment.body}
        act="Keep"
        {comments}
        onsend={async (body) => {
          if (!(await say(comments.rewrite(comment.id, body)))) return false;
          changing = null;
          return true;
        }}
        onleave={() => (changing = null)}
      />
    {:else if comment.body}<Markdown text={comment.body} pictureAt={comments.pictureAt} />
    {:else}<p class="soft italic">deleted</p>{/if}
  </div>
{/snippet}

<div class="flex flex-col gap-2.5">
  {@render one(thread)}
  {#each thread.answers as answer (answer.id)}
    <div class="border-l-2 border-dashed border-[var(--gold)] pl-2.5">{@render one(answer)}</div>
  {/each}
  <CommentField label="Answer" act="Answer" isShort draft={thread.id} {comments} onsend={(body) => say(comments.answer(thread.id, body))} />
  {#if mayResolve}
    <div class="flex flex-wrap gap-1.5">
      {#if thread.resolvedBy === null}<button class="chip" onclick={() => say(comments.resolve(thread.id, true))}>resolve</button>
      {:else}<button class="chip chip-teal" onclick={() => say(comments.resolve(thread.id, false))}
          >resolved{thread.resolvedBy ? ` by ${thread.resolvedBy}` : ''}: reopen</button
        >{/if}
      {#if looseEnd?.isOne}<button class="chip chip-brick" onclick={() => looseEnd.onchange(false)}>no loose end any more</button>
      {:else if looseEnd && thread.resolvedBy === null && thread.body}<button
          class="chip"
          title="It stands among the loose ends of the walk until it is mended"
          onclick={() => looseEnd.onchange(true)}>make it a loose end</button
        >{/if}
    </div>
  {/if}
</div>
