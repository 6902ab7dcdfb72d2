<script lang="ts">
  import { isUnder, resolveScreen } from '@zany/core';
  import type { Player } from '@zany/player';
  import { Comments } from '$lib/client/comments.svelte';
  import { followPointer } from '$lib/shared/follow';
  import CommentCard from '$lib/shared/CommentCard.svelte';
  import CommentRegion from '$lib/shared/CommentRegion.svelte';
  import CommentTag from '$lib/shared/CommentTag.svelte';
  import CommentField from '$lib/shared/CommentField.svelte';
  import { placeWords } from '$lib/shared/comment-place';
  import { wholeFrame, type CommentPlace } from '$lib/shared/types';

  /** Over the piece while somebody comments: pins of what was said here, and wherever else is tapped something new is begun. */
  interface Props {
    player: Player;
    host: HTMLElement;
    comments: Comments;
    onclose: () => void;
  }
  interface Box {
    readonly x: number;
    readonly y: number;
    readonly width: number;
    readonly height: number;
  }
  let { player, host, comments, onclose }: Props = $props();

  let draft: { place: CommentPlace; x: number; y: number } | null = $state.raw(null);
  let open: string | null = $state(null);
  /** What is being pulled over, on the screen. */
  let pulled = $state.raw<Box | null>(null);
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
      const common = wholeFrame(surface.scene, sceneName);
      const shown = [...surface.all].reverse().find((one) => one.node.layer.type !== 'group' && isUnder(one, point));
      const element = shown && player.elementOf(shown.node.key)?.getBoundingClientRect();
      // A sheet is no frame: what is said of it belongs to the frame that it is seen on.
      const isFrame = player.piece.frames.includes(surface.scene);
      if (shown && element) {
        const at = [(clientX - element.left) / element.width, (clientY - element.top) / element.height] as const;
        return isFrame
          ? { ...common, layer: shown.node.key, layerName: shown.node.layer.name, at }
          : { ...wholeFrame(screen.frame, piece.scenes.get(screen.frame)?.name ?? ''), at: [point.x, point.y] };
      }
      if (
        surface.kind === 'laid' &&
        point.x >= surface.x &&
        point.x <= surface.x + surface.width &&
        point.y >= surface.y &&
        point.y <= surface.y + surface.height
      )
        return { ...common, at: [point.x - surface.x, point.y - surface.y] };
    }
    return { ...wholeFrame(screen.frame, piece.scenes.get(screen.frame)?.name ?? ''), at: [point.x, point.y] };
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
  /** Parts of the frame that something was said of, and the one that is pulled over; on the screen. */
  const regions = $derived([
    ...pins.flatMap(({ one: { id, place }, x, y }) => {
      const [width, height] = place.size ?? [];
      return width && height ? { id, x, y, width: width * player.shownScale, height: height * player.shownScale } : [];
    }),
    ...(pulled ? [{ id: null, ...pulled }] : []),
  ]);
  const shown = $derived(comments.list.find(({ id }) => id === open));

  /** A shorter pull is a tap. CSS px. */
  const LEAST = 12;
  function tap({ clientX: x, clientY: y }: Pick<MouseEvent, 'clientX' | 'clientY'>) {
    [open, draft, pulled] = [null, { place: placeAt(x, y), x, y }, null];
  }

  /** A tap is about what is there, a pull about a part of the frame. */
  function press(event: PointerEvent) {
    if (event.button !== 0) return;
    const boxTo = (to: PointerEvent): Box => {
      const [x, y] = [Math.min(event.clientX, to.clientX), Math.min(event.clientY, to.clientY)];
      return { x, y, width: Math.abs(to.clientX - event.clientX), height: Math.abs(to.clientY - event.clientY) };
    };
    const isTap = ({ width, height }: Box) => width < LEAST || height < LEAST;
    followPointer(event, {
      move: (to) => (pulled = isTap(boxTo(to)) ? null : boxTo(to)),
      done: (to) => {
        if (!to) return void (pulled = null);
        const box = boxTo(to);
        if (isTap(box)) return tap(event);
        [open, draft, pulled] = [null, { place: regionIn(box), x: box.x + box.width, y: box.y }, box];
      },
    });
  }

  function regionIn({ x, y, width, height }: Box): CommentPlace {
    const box = boxOfPiece();
    const scale = player.shownScale;
    return {
      ...wholeFrame(screen.frame, piece.scenes.get(screen.frame)?.name ?? ''),
      at: [Math.round((x - box.left) / scale), Math.round((y - box.top) / scale)],
      size: [Math.max(1, Math.round(width / scale)), Math.max(1, Math.round(height / scale))],
    };
  }

  /** Where keys begin a comment. */
  function middleOf(element: Element): Pick<MouseEvent, 'clientX' | 'clientY'> {
    const { left, top, width, height } = element.getBoundingClientRect();
    return { clientX: left + width / 2, clientY: top + height / 2 };
  }

  async function send(body: string): Promise<boolean> {
    const sent = draft!;
    const answer = await comments.add(sent.place, body);
    problem = answer.ok ? '' : answer.error.sentence;
    // Meanwhile something else may have been begun.
    if (answer.ok && draft === sent) [draft, pulled] = [null, null];
    return answer.ok;
  }
</script>

<div class="fixed inset-0 z-20">
  <button
    class="absolute inset-0 h-full w-full cursor-crosshair touch-none bg-[color-mix(in_srgb,#f0b13c_14%,transparent)]"
    aria-label="Comment on what is here"
    onpointerdown={press}
    onclick={(event) => event.detail === 0 && tap(middleOf(event.currentTarget))}
  ></button>
  <div class="absolute inset-x-0 top-0 flex items-center gap-2 bg-[var(--bar)] px-3 py-2 text-[var(--bar-ink)]">
    <span class="flex-1 text-[14px]">Tap what you want to say something about, or pull over a part</span>
    <button class="act" onclick={onclose}>Done</button>
  </div>
  {#each regions as region (region.id)}<CommentRegion {...region} />{/each}
  {#each pins as { one, x, y } (one.id)}
    <span class="absolute -translate-y-1/2" style:left="{x}px" style:top="{y}px">
      <CommentTag
        answers={one.answers.length}
        isLarge
        isOpen={open === one.id}
        label="Comment by {one.by} on {placeWords(piece, one.place)}"
        onclick={() => ([open, draft, pulled] = [one.id, null, null])}
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
        <button class="act act-plain" aria-label="Close" onclick={() => ([open, draft, pulled] = [null, null, null])}>✕</button>
      </p>
      {#if problem}<p role="alert" class="mb-2 text-[var(--brick-text)]">{problem}</p>{/if}
      {#if draft}<CommentField label="What you want to say" act="Comment" {comments} onsend={send} />
      {:else if shown}<CommentCard thread={shown} {comments} onproblem={(sentence) => (problem = sentence)} />{/if}
    </div>
    {#if draft}<span
        class="pointer-events-none absolute h-4 w-4 -translate-x-1/2 -translate-y-1/2 rounded-full border-2 border-white bg-[#b23a26] shadow"
        style:left="{draft.x}px"
        style:top="{draft.y}px"
      ></span>{/if}
  {/if}
</div>
