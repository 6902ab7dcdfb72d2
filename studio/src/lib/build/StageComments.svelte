<script lang="ts">
  import { tick } from 'svelte';
  import type { EditorSession } from '$lib/client/session.svelte';
  import CommentRegion from '$lib/shared/CommentRegion.svelte';
  import CommentTag from '$lib/shared/CommentTag.svelte';
  import { outermost, placeWords } from '$lib/shared/comment-place';
  import { commentWords } from '$lib/shared/comment-words';
  import { takeFocus } from '$lib/shared/focus';
  import { followPointer } from '$lib/shared/follow';
  import { wholeFrame, type CommentPlace } from '$lib/shared/types';

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

  type Box = readonly [x: number, y: number, width: number, height: number];
  let pulled = $state.raw<Box | null>(null);

  const boxOf = ({ at, size }: CommentPlace): Box | null => (at && size ? [...at, ...size] : null);

  /** Regions that something was said of, and the one that is being marked or is to be spoken of. */
  const regions = $derived.by(() => {
    const { about } = session.comments;
    const next = pulled ?? (about && boxOf(about));
    const said = here.flatMap(({ id, place }) => ({ id, box: boxOf(place) }));
    return [...said, { id: null, box: next }].flatMap(({ id, box }) => (box ? { id, box } : []));
  });

  /** A smaller one is a press that has slipped. CSS px. */
  const LEAST = 6;

  function pull(event: PointerEvent) {
    if (event.button !== 0) return;
    event.preventDefault();
    event.stopPropagation();
    const ground = (event.currentTarget as HTMLElement).getBoundingClientRect();
    const { width, height } = session.scene!.scene;
    const spot = ({ clientX, clientY }: PointerEvent) =>
      [Math.min(width, Math.max(0, (clientX - ground.left) / scale)), Math.min(height, Math.max(0, (clientY - ground.top) / scale))] as const;
    const [x, y] = spot(event);
    const box = (to: readonly [number, number]) => [Math.min(x, to[0]), Math.min(y, to[1]), Math.abs(to[0] - x), Math.abs(to[1] - y)] as const;
    followPointer(event, {
      move: (at) => (pulled = box(spot(at))),
      done: (at) => {
        pulled = null;
        if (!at) return;
        const made = box(spot(at));
        if (made[2] * scale >= LEAST && made[3] * scale >= LEAST) speakOf(made);
      },
    });
  }

  function speakOf(box: Box) {
    const [left, top, wide, high] = box.map(Math.round) as [number, number, number, number];
    session.select([]);
    session.comments.isMarking = false;
    session.comments.about = { ...wholeFrame(session.scene!.scene.id, session.scene!.scene.name), at: [left, top], size: [wide, high] };
    // What is to be said of it is typed next.
    void tick().then(() => document.querySelector<HTMLElement>('[role=dialog][aria-label=Comments] textarea')?.focus());
  }

  const ARROWS: Readonly<Record<string, readonly [number, number]>> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };
  /** So far an arrow moves what is marked, or makes it larger or smaller. CSS px of the frame. */
  const KEY_STEP = 8;

  /** The same by keys, from the middle of the frame. */
  function mark(event: KeyboardEvent) {
    const { width, height } = session.scene!.scene;
    const box = pulled ?? [width / 3, height / 3, width / 3, height / 3];
    const way = ARROWS[event.key];
    if (event.key === 'Enter') {
      pulled = null;
      speakOf(box);
    } else if (event.key === 'Escape') {
      pulled = null;
      session.comments.isMarking = false;
    } else if (way) {
      const [x, y, wide, high] = box;
      const [byX, byY] = [way[0] * KEY_STEP, way[1] * KEY_STEP];
      const within = (value: number, least: number, most: number) => Math.min(Math.max(least, value), Math.max(least, most));
      pulled = event.shiftKey
        ? [x, y, within(wide + byX, KEY_STEP, width - x), within(high + byY, KEY_STEP, height - y)]
        : [within(x + byX, 0, width - wide), within(y + byY, 0, height - high), wide, high];
    } else return;
    event.preventDefault();
    event.stopPropagation();
  }

  function open(id: string) {
    session.comments.open = id;
    session.panel = 'comments';
  }
</script>

{#if session.comments.isMarking}
  <!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
  <div
    class="absolute inset-0 z-10 cursor-crosshair touch-none bg-[#f0b13c22]"
    role="application"
    aria-label="Part of the frame: pull over it, or move it by arrows, change its size by them with Shift, and take it with Enter"
    tabindex="0"
    data-marking
    use:takeFocus
    onpointerdown={pull}
    onkeydown={mark}
  ></div>
{/if}
{#each regions as { id, box: [x, y, width, height] } (id)}
  <CommentRegion x={x * scale} y={y * scale} width={width * scale} height={height * scale} {id} isOpen={session.comments.open === id} />
{/each}

{#each pins as { one, x, y } (one.id)}
  <span class="absolute" style:left="{x}px" style:top="{y}px" data-comment-pin={one.id}>
    <CommentTag
      answers={one.answers.length}
      isUnread={one.isUnread}
      isOpen={session.comments.open === one.id}
      label="Comment by {one.by} on {placeWords(session.piece, one.place)}"
      title={commentWords(one.body).slice(0, 200)}
      onclick={() => open(one.id)}
    />
  </span>
{/each}
