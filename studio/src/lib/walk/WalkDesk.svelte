<script lang="ts">
  import { goto } from '$app/navigation';
  import {
    advance,
    branchKey,
    fileName,
    eventWords,
    framesShowing,
    count,
    reportKinds,
    sceneOfThread,
    VERSION,
    type ReportKind,
    keepWalk,
    nextDeadline,
    replay,
    start,
    type Finding,
    type RunEvent,
    type RunState,
    type Thread,
  } from '@zany/core';
  import type { Player } from '@zany/player';
  import AskLine from '$lib/shared/AskLine.svelte';
  import ChipMenu from '$lib/shared/ChipMenu.svelte';
  import { useSession } from '$lib/shared/desk.svelte';
  import Ledger from '$lib/shared/Ledger.svelte';
  import RunningPiece from '$lib/shared/RunningPiece.svelte';
  import Thumb from '$lib/shared/Thumb.svelte';
  import { onDestroy, untrack } from 'svelte';
  import { newId } from '$lib/client/ids';
  import type { Guided } from '$lib/client/audit';
  import { branchesOf, byRank, Coverage, firedIn, namedLine, sceneOfLine, threadsOn, verdictWords } from './coverage.svelte';
  import JustWalked from './JustWalked.svelte';
  import KeptWalks from './KeptWalks.svelte';
  import LooseEnds from './LooseEnds.svelte';
  import Changes from './Changes.svelte';
  import { download } from '$lib/shared/download';
  import type { Entry } from '$lib/shared/ledger-entries';
  import ReadOut from './ReadOut.svelte';
  import { Recorder } from './recorder';
  import WalkComments from './WalkComments.svelte';
  import WhatWasSaid from './WhatWasSaid.svelte';

  const session = useSession();
  const coverage = new Coverage(session.id);

  let player: Player | null = $state.raw(null);
  let ground: HTMLElement | undefined = $state();
  const running = $derived(player && ground ? ground.querySelector<HTMLElement>('[data-running]') : null);
  let chosen: string | null = $state(null);
  let showing = $state('');
  let jumping = $state(false);

  session.ledger = [];
  onDestroy(() => {
    session.ledger = [];
    session.run = null;
  });

  /** The frames that a route goes through, from the one it begins on. */
  function framesOn(finding: Finding): string[] {
    const run = finding.route && start(session.program, finding.route.from);
    if (!run || !finding.route) return [];
    const visited = [run.frame];
    let at = run;
    for (const event of finding.route.events) {
      at = replay(session.program, at, [event]).run;
      if (visited.at(-1) !== at.frame) visited.push(at.frame);
    }
    return visited;
  }

  const reports = (Object.keys(reportKinds) as ReportKind[]).map((kind) => ({ value: kind, label: reportKinds[kind].label }));

  function report(kind: ReportKind) {
    const { audit, program } = session;
    if (!audit) return;
    const { ending, mediaType, write } = reportKinds[kind];
    const found = {
      findings: session.findings,
      aside: session.findingsAside,
      exploration: { cut: audit.cut, count: audit.states, moves: audit.moves },
      said: byRank(coverage.said(program)).map(({ thread, verdict, note, by }) => ({
        line: namedLine(program, thread),
        place: sceneOfLine(program, thread)?.scene.name ?? program.piece.head.name,
        verdict: verdictWords(verdict),
        isRight: verdict && verdict !== 'fail',
        note,
        by: by ?? session.person.name,
      })),
    };
    const name = fileName(program.piece.head.name);
    const from = { file: program.piece.head.name, day: new Date().toISOString().slice(0, 10), version: VERSION };
    download(new Blob([write(program, found, from)], { type: mediaType }), `${name}${ending}`);
  }

  const recorder = new Recorder();
  /** How much of what was done could be kept, to know when to offer it. */
  let done = $state(0);
  let naming = $state(false);
  /** What the person's last step fired. */
  let just: ReturnType<typeof firedIn> = $state.raw([]);

  function restart(frame?: string) {
    player?.restart(frame);
    recorder.begin(player?.state?.frame ?? frame ?? '');
    done = 0;
    just = [];
  }

  /** Goes on from how it was after an entry of the ledger, as if nothing had come after it. */
  function backTo(entry: Entry) {
    const at = session.ledger.indexOf(entry);
    if (!player || at < 0) return;
    showing = '';
    recorder.backTo(entry.after.clock);
    player.resume(entry.after);
    session.ledger = session.ledger.slice(at);
    done = recorder.length;
    just = firedIn([entry]);
  }

  $effect(() => {
    const begun = player;
    // An edit changes the program, not where the run began.
    untrack(() => begun && recorder.begin(begun.state?.frame ?? ''));
  });

  function keepIt(name: string) {
    const made = session.run && recorder.walk(session.program, session.run);
    if (!made) return;
    if ('why' in made) return session.notify(made.why);
    session.edit('Keep a walk', keepWalk(session.piece, name, made.from, made.steps, newId));
    naming = false;
  }

  /** Does what a walk says, one step after the other, and comes to one of some frames in the end, however it went; false if it was left. */
  async function walkIt(id: string, from: string, events: readonly RunEvent[], ends: readonly string[] = []): Promise<boolean> {
    if (!player) return false;
    showing = id;
    session.ledger = [];
    restart(from);
    const { program } = session;
    let run = start(program, from);
    for (const event of events) {
      const due = run && nextDeadline(program, run);
      const left = run && due !== null && due !== Infinity ? due - run.clock : null;
      const isWaiting = event.type === 'wait';
      await pause(isWaiting ? Math.min(event.ms, LONGEST_WAIT) + 60 : Math.min(420, left === null ? 420 : left / 2));
      if (showing !== id || !player) return false;
      // Looking takes time that the walk does not: what is done where something waits is done at its very moment.
      if (run && !isWaiting && left !== null) wind(player, run);
      run = run && advance(program, run, event).run;
      if (!isWaiting) player.send(event);
      else if (run && event.ms > LONGEST_WAIT) wind(player, run);
    }
    if (ends[0] && !ends.includes(player.state?.frame ?? '')) restart(ends[0]);
    // What the last event sets off comes a moment later, and is the machine's doing too.
    await pause(60);
    if (showing !== id) return false;
    showing = '';
    return true;
  }

  /** Nobody looks on for longer than this, in ms: what takes longer is passed over. */
  const LONGEST_WAIT = 3000;

  function wind(to: Player, run: RunState) {
    recorder.backTo(run.clock);
    to.resume(run);
  }

  const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

  /** Walks the route in the running piece, one event after the other, and lights the layer it is about. */
  async function showMe(finding: Finding) {
    chosen = finding.id;
    if (!player) return;
    const frames = finding.place.scene === null ? [] : framesShowing(session.program, finding.place.scene);
    const [frame] = frames;
    if (!finding.route) {
      if (frame) restart(frame);
    } else {
      if (!(await walkIt(finding.id, finding.route.from, finding.route.events, frames))) return;
    }
    const element = finding.place.layer ? player?.elementOf(finding.place.layer) : null;
    element?.animate(
      [
        { outline: '4px solid #b23a26', outlineOffset: '10px' },
        { outline: '4px solid #b23a26', outlineOffset: '2px' },
      ],
      { duration: 500, iterations: 3 }
    );
  }

  function openPlace(finding: Finding) {
    if (finding.place.scene) session.openScene(finding.place.scene);
    if (finding.place.layer) session.select([finding.place.layer]);
    void goto(`/p/${session.id}/build`);
  }

  function openThread(id: string) {
    const thread = session.piece.threads.get(id);
    const scene = thread && sceneOfThread(session.piece, thread);
    if (scene) session.openScene(scene);
    if (thread?.on === 'layer') session.select([thread.owner]);
    void goto(`/p/${session.id}/build`);
  }

  /** All threads there are, by their branches: also those that no route makes fire are there to be walked. */
  const branches = $derived(branchesOf(session.program.piece));
  const walked = $derived(branches.filter(({ thread, branch }) => coverage.has(session.program, thread, branch)));
  const unit = $derived(branches.some(({ branch }) => branch > 0) ? 'branch' : 'thread');
  const isLeft = (thread: Thread) => thread.enabled && thread.branches.some((_, branch) => !coverage.has(session.program, thread.id, branch));
  const nextUp = $derived.by(() => {
    const scene = session.run ? session.program.scenes.get(session.run.frame) : undefined;
    return scene?.items.filter((item) => item.shown && item.threads.some(isLeft)).map((item) => item.layer) ?? [];
  });
  /** The way on to what is not walked yet, from where the person is. */
  let guided = $state.raw<Guided>(null);
  let asked = 0;
  $effect(() => {
    const { run } = session;
    if (!run || !session.audit || !session.auditIsCurrent) return;
    const known = walked.map(({ thread, branch }) => branchKey(thread, branch));
    const ask = ++asked;
    void session.guide($state.snapshot(run) as typeof run, known).then((next) => {
      if (ask === asked) guided = next;
    });
  });
  const way = $derived(guided && guided !== 'nothing' ? guided.events : []);
  const first = $derived(way[0]);
  const lit = $derived(first && 'layer' in first && first.layer ? [first.layer] : []);

  const frames = $derived(session.program.frames.map((id) => session.program.scenes.get(id)!));
  const leftOn = (id: string) => threadsOn(session.program, id).filter(isLeft).length;
</script>

<main class="grid h-full grid-cols-[minmax(280px,330px)_minmax(0,1fr)_minmax(230px,300px)] grid-rows-[minmax(0,1fr)_auto]">
  <section class="scroll relative min-h-0 border-r border-[var(--line)] bg-[var(--sheet)]" aria-label="Loose ends">
    <button
      class="chip chip-teal sr-only focus:not-sr-only focus:absolute focus:right-3 focus:top-2 focus:z-10 focus:px-2.5 focus:py-1"
      onclick={() => running?.focus()}>go into the running piece</button
    >
    <header class="px-3.5 pb-2 pt-2.5">
      <div class="flex items-baseline justify-between gap-2">
        <h2 class="text-[18px]">Loose ends <span class="soft font-sans text-[13px] font-normal">{session.findings.length}</span></h2>
        {#if session.audit && session.auditIsDone}<ChipMenu name="Report" label="report…" tone="chip-ghost" options={reports} onpick={report} />{/if}
      </div>
      <p class={session.isWhole ? 'text-[var(--teal)]' : 'soft'} role="status">
        {#if session.audit && session.auditIsDone}{session.audit.cut
            ? `Explored in part: ${session.audit.cut}`
            : `Explored completely: ${count(session.audit.states, 'state')}, ${count(session.audit.moves, 'move')}, ${(session.audit.ms / 1000).toFixed(2)} s`}{:else}Exploring…
          {session.audit && session.auditIsCurrent ? `${count(session.audit.states, 'state')} so far` : ''}{/if}
      </p>
      {#if session.isWhole === false && session.audit?.isLeft}<button class="chip chip-part mt-1" onclick={() => session.goOnExploring()}
          >◐ Go on exploring</button
        >{/if}
    </header>
    <LooseEnds
      {chosen}
      {showing}
      routeOf={framesOn}
      onchoose={(finding) => (chosen = chosen === finding.id ? null : finding.id)}
      onshow={showMe}
      onopen={openPlace}
    />
    <KeptWalks {showing} onwalk={(id, from, events) => void walkIt(id, from, events)} />
    <WalkComments run={session.run} onjump={(frame) => player?.send({ type: 'jump', frame })} />
    <WhatWasSaid {coverage} onjump={(frame) => player?.send({ type: 'jump', frame })} onopen={({ thread }) => openThread(thread)} />
    <Changes />
  </section>

  <section class="flex min-h-0 flex-col" aria-label="The running piece">
    <div class="flex min-h-[38px] shrink-0 flex-wrap items-center gap-1.5 border-b py-1 border-[var(--line)] bg-[var(--rim)] px-3">
      <button
        class="chip shrink-0 whitespace-nowrap"
        disabled={!session.run?.back.length}
        onclick={() => {
          const back = session.run?.back.at(-1);
          if (back) player?.send({ type: 'jump', frame: back });
        }}>‹ back</button
      >
      <button
        class="chip shrink-0 whitespace-nowrap"
        onclick={() => {
          session.ledger = [];
          showing = '';
          restart();
        }}>start over</button
      >
      <button class="chip shrink-0 whitespace-nowrap" aria-expanded={jumping} onclick={() => (jumping = !jumping)}>jump to…</button>
      {#if session.canEdit}
        {#if naming}
          <AskLine
            label="Name of the walk"
            placeholder="name of the walk"
            act="Keep"
            most={110}
            empty
            class="w-[150px]"
            onsay={keepIt}
            onclose={() => (naming = false)}
          />
        {:else}
          <button class="chip shrink-0 whitespace-nowrap" disabled={done === 0} onclick={() => (naming = true)}>keep this walk</button>
        {/if}
      {/if}
      {#if session.run}<span class="soft ml-2 min-w-0 truncate max-[1180px]:hidden">{session.piece.scenes.get(session.run.frame)?.name}</span>{/if}
      <span class="flex-1"></span>
      <span class="shrink-0 rounded-md bg-[var(--teal)] px-2.5 py-0.5 font-semibold text-[var(--sheet)]">Running</span>
    </div>
    <div bind:this={ground} class="linen-ground relative min-h-0 flex-1 p-5">
      <RunningPiece
        program={session.program}
        assetUrl={session.assetUrl}
        bind:player
        onreport={(reports, run) => {
          recorder.take(session.program, session.run, reports);
          session.addReports(reports, run);
          done = recorder.length;
          // What the machine shows was not walked by anybody.
          if (showing !== '') return;
          coverage.add(session.program, reports, run.frame);
          const fired = firedIn(reports);
          if (fired.length) just = fired;
        }}
        onpad={session.onPad}
        onlink={(address) => session.notify(`Opened ${address}`)}
        live={showing === '' ? lit : []}
      />
    </div>
    {#if jumping}
      <div
        class="scroll flex max-h-[150px] flex-wrap gap-2 border-t border-[var(--line)] bg-[var(--rim)] p-2"
        role="group"
        aria-label="Jump to a frame"
      >
        {#each frames as frame (frame.scene.id)}
          <button
            class="flex flex-col items-center"
            onclick={() => {
              player?.send({ type: 'jump', frame: frame.scene.id });
              jumping = false;
            }}
            ><span class="border border-[var(--line)]"><Thumb scene={frame} assetUrl={session.assetUrl} width={54} height={72} /></span><span
              class="max-w-[64px] truncate text-[12px]">{frame.scene.name}</span
            ></button
          >
        {/each}
      </div>
    {/if}
  </section>

  <div class="grid min-h-0 grid-rows-[minmax(0,1fr)_auto]">
    <Ledger
      {session}
      onback={backTo}
      onopen={(layer) => {
        const scene = session.piece.layers.get(layer)?.scene;
        if (scene) session.openScene(scene);
        session.select([layer]);
        void goto(`/p/${session.id}/build`);
      }}
    />
    <ReadOut root={running} moment={[session.run, player]} />
  </div>

  <section class="col-span-3 flex flex-col gap-2 border-t border-[var(--line)] bg-[var(--rim)] px-4 py-2.5" aria-label="Progress">
    <div class="flex items-baseline gap-3">
      <h2 class="text-[15px]">
        <span data-walked>{walked.length} of {count(branches.length, unit, unit === 'branch' ? 'branches' : 'threads')}</span> walked
      </h2>
      {#if branches.length && walked.length === branches.length}<span class="text-[var(--teal)]">Every {unit} has been walked.</span
        >{:else if first}<span class="min-w-0 truncate" data-next
          >Next: <strong>{eventWords(session.program, first)}</strong>{#if way.length > 1}<span class="soft"
              >, then {way
                .slice(1, 4)
                .map((event) => eventWords(session.program, event))
                .join(', ')}{way.length > 4 ? ' …' : ''}</span
            >{/if}</span
        ><button class="chip chip-teal shrink-0" onclick={() => first && player?.send(first)}>do it</button>{:else if guided === 'nothing'}<span
          class="soft truncate">What is left cannot be come to from here{nextUp.length ? '' : ': start over, or see the loose ends'}.</span
        >{/if}
      <span class="flex-1"></span>
      <ChipMenu
        name="Walk again"
        label="forget what was walked"
        tone="chip-ghost"
        options={[{ value: true, label: 'Yes, begin the walk anew' }]}
        onpick={() => coverage.clear()}
      />
    </div>
    {#if just.length}<JustWalked {coverage} fired={just} />{/if}
    <div
      class="h-2 overflow-hidden rounded-full bg-[var(--line)]"
      role="progressbar"
      aria-label="Share of threads walked"
      aria-valuenow={walked.length}
      aria-valuemin="0"
      aria-valuemax={branches.length}
    >
      <div class="h-full bg-[var(--teal)]" style:width="{branches.length ? (100 * walked.length) / branches.length : 0}%"></div>
    </div>
    <div class="scroll -m-1 flex gap-2 overflow-x-auto p-1">
      {#each frames as frame, i (frame.scene.id)}
        {@const left = leftOn(frame.scene.id)}
        <button
          class="flex shrink-0 flex-col items-center gap-0.5"
          onclick={() => player?.send({ type: 'jump', frame: frame.scene.id })}
          aria-label="Jump to {frame.scene.name}, {count(left, 'thread')} left"
        >
          <span class="relative rounded border-2 {session.run?.frame === frame.scene.id ? 'border-[var(--teal)]' : 'border-[var(--line)]'}"
            ><Thumb scene={frame} assetUrl={session.assetUrl} width={58} height={64} />
            <span
              class="absolute bottom-0 right-0 rounded-tl bg-[var(--sheet)] px-1 text-[12px] font-bold {left
                ? 'text-[var(--gold-text)]'
                : 'text-[var(--teal)]'}">{left || (coverage.visited(frame.scene.id) ? '✓' : '')}</span
            >
          </span>
          <span class="max-w-[72px] truncate text-[12px]">{i + 1} {frame.scene.name}</span>
        </button>
      {/each}
    </div>
  </section>
</main>
