<script lang="ts">
  import { isUnder, resolveScreen } from '@zany/core';
  import type { Player } from '@zany/player';
  import { Comments } from '$lib/client/comments.svelte';
  import CommentCard from '$lib/shared/CommentCard.svelte';
  import CommentTag from '$lib/shared/CommentTag.svelte';
  import CommentField from '$lib/shared/CommentField.svelte';
  import { placeWords } from '$lib/shared/comment-place';
  import type { CommentPlace } from '$lib/shared/types';

  /** Over the piece while somebody comments: pins of what was said here, and wherever else is tapped something new is begun. */
  interface Props {
    player: Player;
    host: HTMLElement;
    comments: Comments;
    onclose: () => void;
  }
  let { player, host, comments, onclose }: Props = $props();

  let draft: { place: CommentPlace; x: number; y: number } | null = $state.raw(null);
  let open: string | null = $state(null);
  let problem = $state('');

  const piece = $derived(player.piece.piece);
  // The piece stands still while one comments.
  // svelte-ignore state_referenced_locally
  const screen = resolveScreen(player.piece, player.state!);

  const boxOfPiece = () => host.querySelector('.zany-player')!.getBoundingClientRect();

  /** What is about a tap: the topmost layer there, else the frame. */
  function placeAt(clientX: number, clientY: number): CommentPlace {
    const box = boxOfPiece();
    const point = { x: (clientX - box.left) / player.shownScale, y: (clientY - box.top) / player.shownScale };
    for (const surface of [...screen.surfaces].reverse()) {
      const sceneName = piece.scenes.get(surface.scene)?.name ?? '';
      const common = { scene: surface.scene, sceneName, state: null, moment: null };
      const shown = [...surface.all].reverse().find((one) => one.node.layer.type !== 'group' && isUnder(one, point));
      const element = shown && player.elementOf(shown.node.key)?.getBoundingClientRect();
      // A sheet is no frame: what is said of it belongs to the frame that it is seen on.
      const isFrame = player.piece.frames.includes(surface.scene);
      if (shown && element) {
        const at = [(clientX - element.left) / element.width, (clientY - element.top) / element.height] as const;
        return isFrame
          ? { ...common, layer: shown.node.key, layerName: shown.node.layer.name, at }
          : {
              ...common,
              scene: screen.frame,
              sceneName: piece.scenes.get(screen.frame)?.name ?? '',
              layer: null,
              layerName: null,
              at: [point.x, point.y],
            };
      }
      if (
        surface.kind === 'laid' &&
        point.x >= surface.x &&
        point.x <= surface.x + surface.width &&
        point.y >= surface.y &&
        point.y <= surface.y + surface.height
      )
        return { ...common, layer: null, layerName: null, at: [point.x - surface.x, point.y - surface.y] };
    }
    return {
      scene: screen.frame,
      sceneName: piece.scenes.get(screen.frame)?.name ?? '',
      layer: null,
      layerName: null,
      state: null,
      moment: null,
      at: [point.x, point.y],
    };
  }

  /** Where a comment stands on the screen; null where what it is about is not there. */
  function spotOf({ scene, layer, at }: CommentPlace): { x: number; y: number } | null {
    const surface = screen.surfaces.find((one) => one.scene === scene);
    if (!surface) return null;
    const element = layer === null ? null : player.elementOf(layer)?.getBoundingClientRect();
    if (layer !== null && !element) return null;
    if (element) return { x: element.left + element.width * (at?.[0] ?? 1), y: element.top + element.height * (at?.[1] ?? 0) };
    const box = boxOfPiece();
    const [x, y] = at ?? [surface.width, 0];
    return { x: box.left + (surface.x + x) * player.shownScale, y: box.top + (surface.y + y) * player.shownScale };
  }

  const pins = $derived(
    comments.left.flatMap((one) => {
      const spot = spotOf(one.place);
      return spot ? [{ one, ...spot }] : [];
    })
  );
  const shown = $derived(comments.list.find(({ id }) => id === open));

  function tap(event: MouseEvent) {
    open = null;
    draft = { place: placeAt(event.clientX, event.clientY), x: event.clientX, y: event.clientY };
  }

  async function send(body: string): Promise<boolean> {
    const answer = await comments.add(draft!.place, body);
    if (!answer.ok) problem = answer.error.sentence;
    else [draft, problem] = [null, ''];
    return answer.ok;
  }
</script>

<div class="fixed inset-0 z-20">
  <button
    class="absolute inset-0 h-full w-full cursor-crosshair bg-[color-mix(in_srgb,#f0b13c_14%,transparent)]"
    aria-label="Comment on what is here"
    onclick={tap}
  ></button>
  <div class="absolute inset-x-0 top-0 flex items-center gap-2 bg-[var(--bar)] px-3 py-2 text-[var(--bar-ink)]">
    <span class="flex-1 text-[14px]">Tap what you want to say something about</span>
    <button class="act" onclick={onclose}>Done</button>
  </div>
  {#each pins as { one, x, y } (one.id)}
    <span class="absolute -translate-y-1/2" style:left="{x}px" style:top="{y}px">
      <CommentTag
        answers={one.answers.length}
        isLarge
        isOpen={open === one.id}
        label="Comment by {one.by} on {placeWords(piece, one.place)}"
        onclick={() => ([open, draft] = [one.id, null])}
      />
    </span>
  {/each}
  {#if draft || shown}
    <div
      class="scroll absolute inset-x-2 bottom-2 mx-auto max-h-[60dvh] max-w-[440px] rounded-2xl bg-[var(--sheet)] p-4 shadow-xl"
      role="dialog"
      aria-label={draft ? 'New comment' : 'Comment'}
    >
      <p class="soft mb-2 flex items-center gap-2">
        <span class="flex-1">{placeWords(piece, (draft ?? shown!).place)}</span>
        <button class="act act-plain" aria-label="Close" onclick={() => ([open, draft] = [null, null])}>✕</button>
      </p>
      {#if problem}<p role="alert" class="mb-2 text-[var(--brick-text)]">{problem}</p>{/if}
      {#if draft}<CommentField label="What you want to say" act="Comment" onsend={send} />
      {:else if shown}<CommentCard thread={shown} {comments} onproblem={(sentence) => (problem = sentence)} />{/if}
    </div>
    {#if draft}<span
        class="pointer-events-none absolute h-4 w-4 -translate-x-1/2 -translate-y-1/2 rounded-full border-2 border-white bg-[#b23a26] shadow"
        style:left="{draft.x}px"
        style:top="{draft.y}px"
      ></span>{/if}
  {/if}
</div>
