<script lang="ts">
  import { likelyFrames, framesOf, PLACES, printLine, scopeOf, stepKinds, targetWords, type Step, type Target, type Thread } from '@zany/core';
  import ChipMenu from '$lib/shared/ChipMenu.svelte';
  import type { EditorSession } from '$lib/client/session.svelte';
  import CueChip from './CueChip.svelte';
  import LineInput from './LineInput.svelte';
  import TransitionChip from './TransitionChip.svelte';
  import { lineOf, plusStep, rewrite, stepsOf, withoutStep, withStep } from './cue-edit';

  let { session, thread, fired = false }: { session: EditorSession; thread: Thread; fired?: boolean } = $props();

  let asLine = $state(false);
  const scope = $derived(scopeOf(session.piece));
  const steps = $derived(stepsOf(thread));
  const layer = $derived(thread.on === 'layer' ? (session.piece.layers.get(thread.owner) ?? null) : null);
  const hasFinding = $derived(session.findings.some((finding) => finding.place.thread === thread.id && finding.severity === 'must'));

  const targets = $derived([
    ...likelyFrames(session.piece, layer, layer?.scene ?? session.sceneId, framesOf(session.piece)).map((frame) => ({
      value: { to: 'frame', frame: frame.id } as Target,
      label: frame.name,
      hint: frame.draft ? 'draft' : '',
    })),
    ...PLACES.map((to) => ({ value: { to } as Target, label: to, hint: 'place' })),
  ]);

  const isLost = (target: Target) => target.to === 'frame' && (target.frame === null || !session.piece.scenes.has(target.frame));

  const kinds = Object.values(stepKinds).map((kind) => ({ value: kind.fresh as Step, label: kind.label, hint: '' }));

  const change = (at: number, step: Step) => rewrite(session, thread, 'Change a step', withStep(thread, at, step));

  const toggle = () =>
    session.edit(thread.enabled ? 'Switch a thread off' : 'Switch a thread on', [
      { op: 'set', table: 'threads', id: thread.id, path: ['enabled'], value: !thread.enabled },
    ]);
</script>

<div
  class="stitch group/thread relative my-1.5 flex flex-wrap items-center gap-1 leading-[22px] {thread.enabled
    ? ''
    : 'stitch-off opacity-60'} {hasFinding ? '!border-l-[var(--brick)]' : ''} {session.litThread === thread.id || fired
    ? 'bg-[var(--gold-wash)]'
    : ''}"
  role="group"
  aria-label="Thread: {printLine(thread, scope)}"
  data-thread={thread.id}
  onpointerenter={() => (session.litThread = thread.id)}
  onpointerleave={() => (session.litThread = null)}
>
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
    {#if thread.cue.type !== 'after'}<span>When</span>{/if}
    <CueChip cue={thread.cue} on={thread.on} onchange={(cue) => rewrite(session, thread, 'Change a cue', { ...lineOf(thread), cue })} />
    {#each steps as step, at (at)}
      <span class="soft">{at === 0 ? '→' : 'then'}</span>
      {#if step.do === 'go'}
        <span>go to</span>
        <ChipMenu
          name="Leads to"
          label={targetWords(step.target, scope)}
          tone={isLost(step.target) ? 'chip-brick' : 'chip-gold'}
          options={targets}
          filter
          onpick={(target) => change(at, { ...step, target })}
        />
        <TransitionChip transition={step.transition} onchange={(transition) => change(at, { ...step, transition })} />
      {:else}
        <span>open</span>
        <input
          class="field h-[22px] min-w-[90px] flex-1 !px-1.5"
          value={step.address}
          aria-label="Address"
          spellcheck="false"
          onkeydown={(event) => {
            event.stopPropagation();
            if (event.key === 'Enter') event.currentTarget.blur();
          }}
          onchange={(event) => change(at, { ...step, address: event.currentTarget.value.trim() })}
        />
        <button
          class="chip chip-ghost"
          aria-pressed={step.tab === 'new'}
          onclick={() => change(at, { ...step, tab: step.tab === 'new' ? 'same' : 'new' })}
          >{step.tab === 'new' ? 'in a new tab' : 'in the same tab'}</button
        >
      {/if}
      {#if steps.length > 1}<button
          class="chip chip-ghost opacity-0 focus:opacity-100 group-hover/thread:opacity-100"
          aria-label="Remove this step"
          onclick={() => rewrite(session, thread, 'Remove a step', withoutStep(thread, at))}>✕</button
        >{/if}
    {/each}
    {#if session.canEdit}
      <span
        class="absolute -top-[23px] right-0 z-10 flex gap-1 rounded-md bg-[var(--sheet)] p-0.5 opacity-0 shadow-sm focus-within:opacity-100 group-hover/thread:opacity-100 [&:not(:focus-within)]:pointer-events-none group-hover/thread:!pointer-events-auto"
      >
        <ChipMenu
          name="Add a step"
          label="+ step"
          tone="chip-ghost"
          options={kinds}
          onpick={(step) => rewrite(session, thread, 'Add a step', plusStep(thread, step))}
        />
        <button class="chip chip-ghost" title="Write it as a line" aria-label="Write it as a line" onclick={() => (asLine = true)}>line</button>
        <button
          class="chip chip-ghost"
          title={thread.enabled ? 'Switch off' : 'Switch on'}
          aria-label={thread.enabled ? 'Switch the thread off' : 'Switch the thread on'}
          onclick={toggle}>{thread.enabled ? 'off' : 'on'}</button
        >
        <button
          class="chip chip-ghost"
          title="Remove"
          aria-label="Remove the thread"
          onclick={() => session.edit('Remove a thread', [{ op: 'remove', table: 'threads', id: thread.id }])}>remove</button
        >
      </span>
    {/if}
  {/if}
</div>
