<script lang="ts">
  import { formOfStep, piecesOf, printLine, scopeFor, stepKinds, withField, type Step, type Thread } from '@zany/core';
  import ChipMenu from '$lib/shared/ChipMenu.svelte';
  import type { EditorSession } from '$lib/client/session.svelte';
  import ConditionChip from './ConditionChip.svelte';
  import CueChip from './CueChip.svelte';
  import LineInput from './LineInput.svelte';
  import SlotChip from './SlotChip.svelte';
  import { lineOf, plusBranch, plusStep, rewrite, withCondition, withoutStep, withStep } from './cue-edit';

  let { session, thread, fired = false }: { session: EditorSession; thread: Thread; fired?: boolean } = $props();

  let asLine = $state(false);
  const scope = $derived(scopeFor(session.piece, thread));
  const hasFinding = $derived(session.findings.some((finding) => finding.place.thread === thread.id && finding.severity === 'must'));
  const last = $derived(thread.branches.length - 1);

  const kinds = Object.values(stepKinds).map((kind) => ({ value: kind.fresh as Step, label: kind.label, hint: '' }));

  const change = (branch: number, at: number, step: Step) => rewrite(session, thread, 'Change a step', withStep(thread, branch, at, step));

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
    <CueChip {scope} cue={thread.cue} on={thread.on} onchange={(cue) => rewrite(session, thread, 'Change a cue', { ...lineOf(thread), cue })} />
    {#each thread.branches as branch, b (b)}
      <span class="contents" role="group" aria-label="Branch {b + 1}">
        {#if b > 0}<span class="w-full"></span><span>otherwise</span>{/if}
        {#if branch.if !== undefined}
          <span>if</span>
          <ConditionChip
            value={branch.if}
            {scope}
            start={branch.if === 'true'}
            onchange={(condition) => rewrite(session, thread, 'Change a condition', withCondition(thread, b, condition))}
          />
          <button
            class="chip chip-ghost opacity-0 focus:opacity-100 group-hover/thread:opacity-100"
            aria-label="Remove the condition"
            onclick={() => rewrite(session, thread, 'Remove a condition', withCondition(thread, b, undefined))}>✕</button
          >
        {/if}
        {#each branch.steps as step, at (at)}
          <span class="soft">{at === 0 ? '→' : step.with ? 'with' : 'then'}</span>
          {#each piecesOf(formOfStep(step), step, scope) as piece, i (i)}
            {#if 'word' in piece}<span>{piece.word}</span>{:else}<SlotChip
                slot={piece.slot}
                value={piece.value}
                text={piece.text}
                whole={step}
                {scope}
                layer={thread.on === 'layer' ? thread.owner : null}
                onchange={(value) => change(b, at, withField(step, piece.slot.path, value))}
              />{/if}
          {/each}
          {#if step.do === 'open'}
            <button
              class="chip chip-ghost"
              aria-pressed={step.tab === 'new'}
              onclick={() => change(b, at, { ...step, tab: step.tab === 'new' ? 'same' : 'new' })}
              >{step.tab === 'new' ? 'not in a new tab' : 'in a new tab'}</button
            >
          {/if}
          {#if branch.steps.length > 1 || step.do !== 'go'}<button
              class="chip chip-ghost -mx-0.5 w-4 !px-0 opacity-0 focus:opacity-100 group-hover/thread:opacity-100"
              aria-label="Remove this step"
              onclick={() => rewrite(session, thread, 'Remove a step', withoutStep(thread, b, at))}>✕</button
            >{/if}
        {:else}<span class="soft">→ …</span>{/each}
      </span>
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
          onpick={(step) => rewrite(session, thread, 'Add a step', plusStep(thread, last, step))}
        />
        {#if thread.branches[last]?.if === undefined}<button
            class="chip chip-ghost"
            title="Only if a condition holds"
            onclick={() => rewrite(session, thread, 'Add a condition', withCondition(thread, last, 'true'))}>+ if</button
          >{:else}<button
            class="chip chip-ghost"
            title="When the condition does not hold"
            onclick={() => rewrite(session, thread, 'Add a branch', plusBranch(thread))}>+ otherwise</button
          >{/if}
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
