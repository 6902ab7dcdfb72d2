<script lang="ts">
  import { invalidateAll } from '$app/navigation';
  import { compile, count, pieceFromTrusted, startFrame, type Program } from '@zany/core';
  import { keyOf, makePad, Player, sendKey } from '@zany/player';
  import { onMount, tick } from 'svelte';
  import { ask } from '$lib/client/api';
  import { Comments } from '$lib/client/comments.svelte';
  import { isTyping } from '$lib/shared/focus';
  import type { LinkedPiece, LinkFace, ReviewTask, SentTrail } from '$lib/shared/types';
  import CommentLayer from './CommentLayer.svelte';
  import FrameGallery from './FrameGallery.svelte';
  import { freePlace, PLACES, type DotPlace } from './dot';
  import { Going } from './going.svelte';

  /** The page of a review link once somebody has come in: the piece, filling the screen, and one dot. */
  let { token, face, name }: { token: string; face: LinkFace; name: string } = $props();

  // svelte-ignore state_referenced_locally
  const base = `/r/${token}`;
  const assetUrl = (asset: string) => `${base}/assets/${asset}`;

  let problem = $state('');
  let program: Program | null = $state.raw(null);
  let linked = $state.raw<LinkedPiece | null>(null);
  let host: HTMLElement | undefined = $state();
  let player: Player | null = $state.raw(null);
  let going: Going | null = $state.raw(null);
  let isOpen = $state(false);
  let isForgetting = $state(false);
  /** Which task is on: its place in the list; -1 where there is none, or they are through. */
  let at = $state(-1);
  /** The task is said, and not begun yet. */
  let isAsking = $state(false);
  let hinting = $state(false);
  let dot: HTMLButtonElement | undefined = $state();
  let place: DotPlace = $state.raw(PLACES[0]!);
  /** Why what is done is not kept any more. */
  let unkept = $state('');
  let isCommenting = $state(false);
  // svelte-ignore state_referenced_locally
  const comments = face.may === 'comment' ? new Comments(`${base}/comments`) : null;

  const tasks = $derived(linked?.tasks ?? []);
  const task: ReviewTask | null = $derived(tasks[at] ?? null);
  const mayWalk = $derived(face.may !== 'look');

  /** False where it has to be sent again. */
  async function send(sent: SentTrail, isLast: boolean): Promise<boolean> {
    const body = JSON.stringify(sent);
    try {
      const response = await fetch(`${base}/trails`, {
        method: 'POST',
        body,
        headers: { 'Content-Type': 'application/json' },
        keepalive: isLast && body.length < 60_000,
      });
      if (response.ok) unkept = '';
      else if ([401, 403, 410].includes(response.status)) await invalidateAll();
      else unkept = ((await response.json()) as { error?: { sentence?: string } }).error?.sentence ?? 'What you do is not kept just now.';
      return response.status < 500;
    } catch {
      unkept = 'The server cannot be reached. What you do is sent when it can be again, as long as this page is open.';
      return false;
    }
  }

  /** Begins a go: at a task, or alone. */
  function begin(from: string | null, on: ReviewTask | null) {
    if (!program || !host || !linked) return;
    going?.end();
    const first = from !== null && program.scenes.has(from) ? from : startFrame(program);
    if (first === null) return;
    const made = new Going(program, on, first, { revision: linked.revision, view: linked.view }, send);
    going = made;
    isAsking = false;
    isOpen = false;
    if (player) player.restart(first);
    else player = play(first);
    if (player.state) made.look(player.state);
    host.focus({ preventScroll: true });
    makeWay();
  }

  /** The dot goes where it is in nobody's way, on each frame anew. */
  function makeWay() {
    requestAnimationFrame(() => host && !wasMoved && (place = freePlace(host, place)));
  }

  /** Who drags the dot has it where he wants it. */
  let wasMoved = false;
  let shownFrame = '';
  function dragDot(event: PointerEvent) {
    const from = { x: event.clientX, y: event.clientY };
    let isDragged = false;
    const move = ({ clientX, clientY }: PointerEvent) => {
      if (!isDragged && Math.hypot(clientX - from.x, clientY - from.y) < 6) return;
      isDragged = wasMoved = true;
      place = { x: clientX / innerWidth, y: clientY / innerHeight };
    };
    const up = () => {
      removeEventListener('pointermove', move);
      // The click that ends a drag opens nothing.
      if (isDragged) dot!.addEventListener('click', (click) => click.stopImmediatePropagation(), { capture: true, once: true });
    };
    addEventListener('pointermove', move);
    addEventListener('pointerup', up, { once: true });
  }

  function play(frame: string): Player {
    const made = new Player(host!, program!, {
      assetUrl,
      frame,
      onReport: (_reports, { frame: now }) => {
        if (now !== shownFrame) makeWay();
        shownFrame = now;
      },
      onSent: (ms, event, run, reports) => {
        going?.take(ms, event, run, reports);
        if (
          event.type === 'release' &&
          reports.every(({ fired, effects }) => fired.length === 0 && effects.length === 0) &&
          !isTyping(document.activeElement)
        )
          hint();
      },
    });
    const pad = makePad(document, made);
    if (pad) host!.parentElement!.append(pad);
    return made;
  }

  let timer: ReturnType<typeof setTimeout> | undefined;
  /** A press that met nothing lights up what can be pressed. */
  function hint() {
    if (!linked?.hints) return;
    hinting = true;
    clearTimeout(timer);
    timer = setTimeout(() => (hinting = false), 900);
  }

  function startOver() {
    if (!player || !going) return;
    const passed = Math.max(0, Math.floor(player.clock) - (player.state?.clock ?? 0));
    player.restart(going.from);
    if (player.state) going.take(passed, { type: 'again' }, player.state, []);
    isOpen = false;
  }

  function next() {
    at = at + 1 < tasks.length ? at + 1 : -1;
    isOpen = false;
    if (at === -1) return begin(null, null);
    isAsking = true;
  }

  async function forget() {
    const answer = await ask('DELETE', `${base}/me`);
    if (answer.ok) location.reload();
    else problem = answer.error.sentence;
  }

  async function read(): Promise<void> {
    const answer = await ask<LinkedPiece>('GET', `${base}/piece`);
    if (!answer.ok) return void (answer.error.code === 'signed-out' ? await invalidateAll() : (problem = answer.error.sentence));
    const isFirst = !linked;
    linked = isFirst ? answer.value : { ...linked!, hints: answer.value.hints, tasks: answer.value.tasks };
    if (!isFirst) return;
    program = compile(pieceFromTrusted(answer.value.piece));
    await tick();
    if (!mayWalk) return;
    if (tasks.length) [at, isAsking] = [0, true];
    else begin(null, null);
  }

  onMount(() => {
    void read();
    void comments?.read();
    const news = new EventSource(`${base}/alive`);
    news.addEventListener('changed', () => void invalidateAll().then(read));
    news.addEventListener('comments', () => void comments?.read());
    news.addEventListener('ended', () => {
      news.close();
      void invalidateAll();
    });
    const keys = (event: KeyboardEvent) => {
      if (event.key === 'Escape' && isOpen) {
        isOpen = false;
        return dot?.focus();
      }
      const target = event.target as HTMLElement;
      if (!player || isAsking || isOpen || isCommenting || event.defaultPrevented || isTyping(target)) return;
      if (target !== document.body && !host?.contains(target)) return;
      if (keyOf(event) !== null && event.key !== 'Tab') sendKey(player, event);
    };
    const leaving = () => void going?.flush(true);
    addEventListener('keydown', keys);
    addEventListener('pagehide', leaving);
    const hidden = () => document.visibilityState === 'hidden' && leaving();
    document.addEventListener('visibilitychange', hidden);
    return () => {
      removeEventListener('keydown', keys);
      removeEventListener('pagehide', leaving);
      document.removeEventListener('visibilitychange', hidden);
      clearTimeout(timer);
      news.close();
      going?.end();
      player?.destroy();
      player = null;
    };
  });
</script>

<svelte:head>
  <title>{face.piece} · Zany Thread</title>
  <meta name="viewport" content="width=device-width, initial-scale=1, viewport-fit=cover" />
</svelte:head>

{#snippet card(title: string, children: import('svelte').Snippet)}
  <div class="fixed inset-0 z-30 grid place-items-center bg-[color-mix(in_srgb,var(--ink)_45%,transparent)] p-4">
    <div
      class="flex w-full max-w-[420px] flex-col gap-4 rounded-2xl bg-[var(--sheet)] p-6 shadow-xl"
      role="dialog"
      aria-modal="true"
      aria-label={title}
    >
      <h1 class="text-[18px]">{title}</h1>
      {@render children()}
    </div>
  </div>
{/snippet}

<main class="relative h-dvh w-full overflow-hidden bg-[var(--linen)]" class:hinting>
  {#if problem}
    <div class="grid h-full place-items-center p-6"><p role="alert" class="max-w-md text-center text-[15px]">{problem}</p></div>
  {:else if !program}
    <div class="grid h-full place-items-center"><p class="soft">Opening {face.piece}…</p></div>
  {:else if !mayWalk}
    <FrameGallery {program} {assetUrl} />
  {:else}
    <!-- A press beside the frame meets nothing either. -->
    <div
      bind:this={host}
      class="absolute inset-0 outline-none"
      data-running
      tabindex="-1"
      role="presentation"
      onpointerup={({ target }) => target === host && hint()}
    ></div>
  {/if}

  {#if isAsking && task}
    {#snippet asking()}
      <p class="text-[17px]">{task.sentence}</p>
      <div class="flex gap-2">
        <!-- svelte-ignore a11y_autofocus -->
        <button class="act act-go h-11 flex-1 justify-center text-[15px]" autofocus onclick={() => begin(task.start, task)}>Begin</button>
        <button class="act h-11" onclick={next}>Skip</button>
      </div>
    {/snippet}
    {@render card(`Task ${at + 1} of ${tasks.length}`, asking)}
  {:else if going?.outcome === 'reached'}
    {#snippet reached()}
      <p class="text-[15px]">That is it: {going!.task!.sentence} It took {count(going!.steps, 'step')}.</p>
      <button class="act act-go h-11 justify-center text-[15px]" onclick={next}>{at + 1 < tasks.length ? 'Next task' : 'Look around freely'}</button>
    {/snippet}
    {@render card('Done', reached)}
  {:else if going?.outcome === 'given up'}
    {#snippet given()}
      <p class="text-[15px]">Thank you: where it could not be found is worth knowing.</p>
      <button class="act act-go h-11 justify-center text-[15px]" onclick={next}>{at + 1 < tasks.length ? 'Next task' : 'Look around freely'}</button>
    {/snippet}
    {@render card('Given up', given)}
  {/if}

  {#if isCommenting && comments && player?.state && host}<CommentLayer {player} {host} {comments} onclose={() => (isCommenting = false)} />{/if}

  {#if isOpen}
    <!-- svelte-ignore a11y_click_events_have_key_events, a11y_no_static_element_interactions -->
    <div class="fixed inset-0 z-20" onclick={() => (isOpen = false)}></div>
    <div
      class="fixed left-1/2 top-1/2 z-30 flex w-[300px] max-w-[calc(100vw-24px)] -translate-x-1/2 -translate-y-1/2 flex-col gap-3 rounded-2xl border border-[var(--line)] bg-[var(--sheet)] p-4 shadow-xl"
      role="dialog"
      aria-label="This link"
    >
      <p class="font-semibold">{face.piece}</p>
      {#if task && going?.task}
        <p>{task.sentence}</p>
        <button class="act h-10 justify-center" onclick={() => (going?.giveUp(), (isOpen = false))}>I give up on this</button>
      {:else if mayWalk}
        <p class="soft">You look around freely, {name}.</p>
        {#if tasks.length}<button class="act h-10 justify-center" onclick={() => ([at, isAsking, isOpen] = [0, true, false])}
            >Do the tasks again</button
          >{/if}
      {/if}
      {#if comments}
        <button class="act h-10 justify-center" onclick={() => ([isCommenting, isOpen] = [true, false])}
          >Comment{comments.left.length ? ` (${comments.left.length} so far)` : ''}</button
        >
      {/if}
      {#if mayWalk}<button class="act h-10 justify-center" onclick={startOver}>Start over</button>{/if}
      {#if unkept}<p class="text-[var(--brick-text)]">{unkept}</p>{/if}
      {#if isForgetting}
        <p>Delete your name and all that was kept of what you did?</p>
        <div class="flex gap-2">
          <button class="act act-go h-10 flex-1 justify-center" onclick={forget}>Delete</button>
          <button class="act h-10 flex-1 justify-center" onclick={() => (isForgetting = false)}>Keep</button>
        </div>
      {:else}<button class="soft self-start underline" onclick={() => (isForgetting = true)}>Delete what is kept of me</button>{/if}
    </div>
  {/if}

  <button
    bind:this={dot}
    class="fixed z-30 grid h-11 w-11 touch-none place-items-center rounded-full"
    style:left="clamp(4px, calc({place.x * 100}vw - 22px), calc(100vw - 48px))"
    style:top="clamp(4px, calc({place.y * 100}dvh - 22px), calc(100dvh - 48px))"
    title="About this link; drag it out of the way"
    aria-label="About this link"
    aria-expanded={isOpen}
    onpointerdown={dragDot}
    onclick={() => (isOpen = !isOpen)}><span class="block h-5 w-5 rounded-full border-2 border-white bg-[#e59a00] shadow-md"></span></button
  >
</main>

<style>
  .hinting :global(:is([role='button'], [role='link'], [role='tab'], [role='checkbox'], [role='switch'], input, select, textarea)) {
    outline: 3px solid #e59a00;
    outline-offset: 2px;
  }
</style>
