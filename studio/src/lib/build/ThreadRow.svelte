<script lang="ts">
  import {
    count,
    exampleOfStep,
    formOfStep,
    moveThread,
    piecesOf,
    placeKey,
    sameElsewhere,
    threadBefore,
    printLine,
    scopeFor,
    stepKinds,
    withField,
    type Step,
    type Thread,
  } from '@zany/core';
  import ChipMenu from '$lib/shared/ChipMenu.svelte';
  import Popover from '$lib/shared/Popover.svelte';
  import type { EditorSession } from '$lib/client/session.svelte';
  import ConditionChip from './ConditionChip.svelte';
  import CueChip from './CueChip.svelte';
  import LineInput from './LineInput.svelte';
  import SlotChip from './SlotChip.svelte';
  import { commentWords } from '$lib/shared/comment-words';
  import { wholeFrame } from '$lib/shared/types';
  import NoteText from './NoteText.svelte';
  import { lineOf, plusBranch, plusStep, rewrite, withCondition, withoutBranch, withoutStep, withStep } from './cue-edit';

  let { session, thread, fired = false }: { session: EditorSession; thread: Thread; fired?: boolean } = $props();

  let asLine = $state(false);
  let noting = $state(false);

  const keepNote = (note: string) =>
    session.edit('Note', [{ op: 'set', table: 'threads', id: thread.id, path: ['note'], ...(note && { value: note }) }]);

  const joined = ({ with: together, ...step }: Step): Step => (together ? step : { ...step, with: true }) as Step;

  function copy() {
    void navigator.clipboard.writeText(printLine(thread, scope)).then(
      () => session.notify('Copied as a line: select layers and paste it.'),
      () => session.notify('The browser does not let the clipboard be written.')
    );
  }

  const said = $derived(session.comments.left.filter(({ place }) => place.thread === thread.id));

  /** A comment on the thread is begun, or what was said of it opened. */
  function comment() {
    more = false;
    const layer = thread.on === 'layer' ? session.piece.layers.get(thread.owner) : undefined;
    session.select(layer ? [layer.id] : []);
    session.comments.about = session.scene && {
      ...wholeFrame(session.scene.scene.id, session.scene.scene.name),
      layer: layer?.id ?? null,
      layerName: layer?.name ?? null,
      thread: thread.id,
      threadLine: printLine(thread, scope),
    };
    session.panel = 'comments';
  }

  function openSaid() {
    session.comments.open = said[0]!.id;
    session.panel = 'comments';
  }

  /** Alt and arrows move the thread among those of its owner. */
  function key(event: KeyboardEvent) {
    if (!event.altKey || !session.canEdit || (event.key !== 'ArrowUp' && event.key !== 'ArrowDown')) return;
    event.preventDefault();
    event.stopPropagation();
    session.edit('Reorder threads', moveThread(session.piece, thread.id, event.key === 'ArrowUp' ? -1 : 1));
  }
  const scope = $derived(scopeFor(session.piece, thread));
  const hasFinding = $derived(
    (thread.on === 'layer' ? session.findingsAt(thread.owner) : session.findings).some(
      (finding) => finding.place.thread === thread.id && finding.severity === 'must'
    )
  );
  /** Where a pasted thread still says what the one says that it was copied from, or others that it was pasted with. */
  const alike = $derived(session.pasted.has(thread.id) ? sameElsewhere(session.plain.piece, thread) : null);
  const last = $derived(thread.branches.length - 1);

  const kinds = Object.values(stepKinds).map((kind) => ({
    value: kind.fresh as Step,
    label: kind.label,
    meaning: kind.meaning,
    example: () => exampleOfStep(kind.do),
  }));

  /** What can be put behind what the thread does already. */
  const additions = $derived([
    ...(thread.branches[last]?.if === undefined
      ? [{ value: () => rewrite(session, thread, 'Add a condition', withCondition(thread, last, 'true')), label: 'only if …', hint: 'condition' }]
      : [{ value: () => rewrite(session, thread, 'Add a branch', plusBranch(thread)), label: 'otherwise …', hint: 'branch' }]),
    ...kinds.map(({ value, label, meaning, example }) => ({
      value: () => rewrite(session, thread, 'Add a step', plusStep(thread, last, value)),
      label,
      hint: 'step',
      meaning,
      example,
    })),
  ]);
  let more = $state(false);
  let moreButton: HTMLButtonElement | undefined = $state();

  const change = (branch: number, at: number, step: Step) => rewrite(session, thread, 'Change a step', withStep(thread, branch, at, step));

  const THREAD_TYPE = 'application/x-zany-thread';

  /** A thread let go on this one comes before it. */
  function drop(event: DragEvent) {
    const id = event.dataTransfer?.getData(THREAD_TYPE);
    if (!id || id === thread.id) return;
    event.preventDefault();
    event.stopPropagation();
    session.edit('Move a thread', threadBefore(session.piece, id, thread.id));
  }

  type Piece = ReturnType<typeof piecesOf>[number];

  /** How a step goes: the sentence may break before it. */
  const isHow = (piece: Piece): boolean => !('word' in piece) && (piece.slot.kind === 'transition' || piece.slot.kind === 'timing');

  const toggle = () =>
    session.edit(thread.enabled ? 'Switch a thread off' : 'Switch a thread on', [
      { op: 'set', table: 'threads', id: thread.id, path: ['enabled'], value: !thread.enabled },
    ]);
</script>

{#snippet part(piece: Piece, step: Step, b: number, at: number)}
  {#if 'word' in piece}<span>{piece.word}</span>{:else}<SlotChip
      slot={piece.slot}
      value={piece.value}
      text={piece.text}
      whole={step}
      {scope}
      layer={thread.on === 'layer' ? thread.owner : null}
      alike={alike?.has(placeKey(b, at, piece.slot.path)) ?? false}
      onchange={(value) => change(b, at, withField(step, piece.slot.path, value))}
    />{/if}
{/snippet}

<div
  class="stitch group/thread relative my-1.5 flex flex-wrap items-center gap-1 leading-[22px] {thread.enabled
    ? ''
    : 'stitch-off opacity-60'} {hasFinding ? '!border-l-[var(--brick)]' : ''} {session.litThread === thread.id || fired
    ? 'bg-[var(--gold-wash)]'
    : ''}"
  role="group"
  aria-label="Thread: {printLine(thread, scope)}"
  data-thread={thread.id}
  onkeydown={key}
  draggable={session.canEdit && !asLine}
  ondragstart={(event) => {
    event.stopPropagation();
    event.dataTransfer?.setData(THREAD_TYPE, thread.id);
  }}
  ondragover={(event) => event.dataTransfer?.types.includes(THREAD_TYPE) && event.preventDefault()}
  ondrop={drop}
  oncontextmenu={(event) => {
    if (asLine) return;
    event.preventDefault();
    event.stopPropagation();
    more = true;
  }}
  onpointerenter={() => (session.litThread = thread.id)}
  onpointerleave={() => (session.litThread = null)}
>
  <NoteText note={thread.note} label="Note of the thread" most={2000} canEdit={session.canEdit} bind:writing={noting} onkeep={keepNote} />
  {#if asLine}
    <div class="w-full pr-1">
      <LineInput
        {session}
        on={thread.on}
        owner={thread.owner}
        thread={thread.id}
        text={printLine(lineOf(thread), scope)}
        focus
        onclose={() => (asLine = false)}
      />
    </div>
  {:else}
    <span class="phrase">
      {#if thread.cue.type !== 'after'}<span>When</span>{/if}
      <CueChip {scope} cue={thread.cue} on={thread.on} onchange={(cue) => rewrite(session, thread, 'Change a cue', { ...lineOf(thread), cue })} />
    </span>
    {#each thread.branches as branch, b (b)}
      <span class="contents" role="group" aria-label="Branch {b + 1}">
        {#if b > 0}<span class="w-full"></span><span class="phrase"
            >otherwise{#if session.canEdit}<button
                class="cut"
                aria-label="Remove this branch"
                onclick={() => rewrite(session, thread, 'Remove a branch', withoutBranch(thread, b))}>✕</button
              >{/if}</span
          >{/if}
        {#if branch.if !== undefined}
          <span class="phrase">
            <span>if</span>
            <ConditionChip
              value={branch.if}
              {scope}
              start={branch.if === 'true'}
              onchange={(condition) => rewrite(session, thread, 'Change a condition', withCondition(thread, b, condition))}
            />
            {#if session.canEdit}<button
                class="cut"
                aria-label="Remove the condition"
                onclick={() => rewrite(session, thread, 'Remove a condition', withCondition(thread, b, undefined))}>✕</button
              >{/if}
          </span>
        {/if}
        {#each branch.steps as step, at (at)}
          {@const pieces = piecesOf(formOfStep(step), step, scope)}
          <span class="phrase">
            {#if at === 0}<span class="soft">→</span>{:else}<button
                class="soft underline decoration-dotted underline-offset-2"
                title="Together with the step before, or after it"
                aria-label="{step.with ? 'With' : 'Then'}: change"
                onclick={() => change(b, at, joined(step))}>{step.with ? 'with' : 'then'}</button
              >{/if}
            {#each pieces.filter((piece) => !isHow(piece)) as piece, i (i)}{@render part(piece, step, b, at)}{/each}
            {#if step.do === 'open'}
              <button class="chip chip-ghost" onclick={() => change(b, at, { ...step, tab: step.tab === 'new' ? 'same' : 'new' })}
                >{step.tab === 'new' ? 'this tab instead' : 'new tab instead'}</button
              >
            {/if}
            {#if session.canEdit && (branch.steps.length > 1 || step.do !== 'go')}<button
                class="cut"
                aria-label="Remove this step"
                onclick={() => rewrite(session, thread, 'Remove a step', withoutStep(thread, b, at))}>✕</button
              >{/if}
          </span>
          {#each pieces.filter(isHow) as piece, i (i)}{@render part(piece, step, b, at)}{/each}
        {:else}<span class="soft">→ …</span>{/each}
      </span>
    {/each}
    {#if alike?.size}
      <button
        class="chip chip-ghost text-[12px]"
        title="It says the same as another thread, and is meant to"
        onclick={() => session.settlePasted(thread.id)}>same is right</button
      >
    {/if}
    {#if said.length}<button
        class="chip chip-ghost text-[12px]"
        title={commentWords(said[0]!.body).slice(0, 200)}
        aria-label="{count(said.length, 'comment')} on the thread"
        onclick={openSaid}>❞ {said.length}</button
      >{/if}
    <!-- In the margin, so that a thread takes no line more for what is seen only when it is pointed at. -->
    <span class="absolute -left-9 top-0 flex opacity-0 focus-within:opacity-100 group-hover/thread:opacity-100">
      <button bind:this={moreButton} class="margin-key" aria-label="More about the thread" aria-expanded={more} onclick={() => (more = !more)}
        >⋯</button
      >
      {#if session.canEdit}<ChipMenu name="Add to the thread" label="+" tone="margin-key" options={additions} filter onpick={(add) => add()} />{/if}
    </span>
    {#if more && moreButton}
      <Popover anchor={moreButton} label="More about the thread" onclose={() => (more = false)} width={180}>
        {#if session.canEdit}<button class="menu-row" onclick={() => ((asLine = true), (more = false))}>Write it as a line</button>{/if}
        <button class="menu-row" onclick={() => (copy(), (more = false))}>Copy</button>
        <button class="menu-row" onclick={comment}>Comment</button>
        {#if session.canEdit}
          <button class="menu-row" onclick={() => ((noting = true), (more = false))}>{thread.note ? 'Change the note' : 'Note'}</button>
          <button class="menu-row" onclick={() => (toggle(), (more = false))}>{thread.enabled ? 'Switch off' : 'Switch on'}</button>
          <button
            class="menu-row text-[var(--brick-text)]"
            onclick={() => session.edit('Remove a thread', [{ op: 'remove', table: 'threads', id: thread.id }])}>Remove</button
          >
        {/if}
      </Popover>
    {/if}
  {/if}
</div>

<style>
  /* A thread breaks where its sentence does; only what is longer than a row breaks within. */
  .phrase {
    position: relative;
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 4px;
    max-width: 100%;
  }
  /* On the corner of what it removes, so that it takes no room beside it. */
  .cut {
    position: absolute;
    z-index: 1;
    top: -8px;
    right: -7px;
    width: 16px;
    height: 16px;
    border: 1px solid var(--line);
    border-radius: 8px;
    background: var(--sheet);
    color: var(--soft);
    font-size: 9px;
    line-height: 1;
    opacity: 0;
  }
  .phrase:hover > .cut,
  .cut:focus-visible {
    opacity: 1;
  }
  .cut:hover {
    border-color: var(--brick);
    color: var(--brick-text);
  }
</style>
