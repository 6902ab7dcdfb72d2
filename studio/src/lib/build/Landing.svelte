<script lang="ts">
  import { displayExpression, lostInStep, rehearse, scopeFor, stepWords, type Item, type Step, type Thread } from '@zany/core';
  import type { EditorSession } from '$lib/client/session.svelte';
  import Scrub from './Scrub.svelte';

  /** Where a thread leads, branch by branch: the screen before and after, with all that happens between to be scrubbed. */
  let { session, scene, thread, item, named }: { session: EditorSession; scene: string; thread: Thread; item: Item | null; named: boolean } =
    $props();

  /** A thread that was just changed is told at once; what else changes, after a rest. */
  const program = $derived(session.calm.piece.threads.get(thread.id) === thread ? session.calm : session.plain);
  const state = $derived(scene === session.sceneId ? session.stateId : null);
  const scope = $derived(scopeFor(session.piece, thread));
  const tries = $derived(
    thread.branches.map((branch, at) => ({
      branch,
      rehearsal: branch.steps.length ? rehearse(program, scene, { state }, thread.id, at) : null,
    }))
  );
  const frameName = (id: string) => session.piece.scenes.get(id);

  /** What a step asks for that is not there, in words. */
  function lack(step: Step): string | null {
    if (step.do === 'go' && step.target.to === 'frame') {
      if (step.target.frame === null) return 'Not chosen yet: pick a frame below.';
      if (!session.piece.scenes.has(step.target.frame)) return 'The frame it led to is gone: pick another below.';
    }
    return lostInStep(session.piece, scope, step);
  }

  function light(on: boolean) {
    session.litThread = on ? thread.id : null;
    session.lit = on && item ? [item.layer.id] : [];
  }
</script>

<div
  class="flex flex-col gap-1 rounded-md {session.litThread === thread.id ? 'bg-[var(--gold-wash)]' : ''}"
  role="group"
  aria-label="Landing"
  onpointerenter={() => light(true)}
  onpointerleave={() => light(false)}
>
  {#if named && item}<span class="truncate font-semibold">{item.layer.name}</span>{/if}
  {#each tries as { branch, rehearsal }, b (b)}
    {#if b > 0 || branch.if !== undefined}
      <span class="soft truncate text-[12px]" title={branch.if && displayExpression(branch.if, scope.expression).text}
        >{b > 0 ? 'otherwise' : ''}{branch.if === undefined
          ? ''
          : `${b > 0 ? ', ' : ''}if ${displayExpression(branch.if, scope.expression).text}`}</span
      >
    {/if}
    {@const lacking = branch.steps.map(lack).find((words) => words !== null)}
    {#if lacking}
      <p class="rounded-md border border-dashed border-[var(--brick)] px-2 py-1.5 text-[var(--brick-text)]">{lacking}</p>
    {:else if rehearsal?.changes}
      <Scrub {rehearsal} assetUrl={session.assetUrl} source={item?.box} />
    {/if}
    {#if rehearsal && rehearsal.run.frame !== scene && frameName(rehearsal.run.frame)}
      {@const frame = frameName(rehearsal.run.frame)!}
      <button class="soft text-left hover:underline" title="Open {frame.name}" onclick={() => session.openScene(frame.id)}
        >{(session.program.frameAt.get(frame.id) ?? 0) + 1}
        {frame.name}{frame.draft ? ' · draft' : ''}</button
      >
    {/if}
    {#if !lacking}
      {#each branch.steps as step, i (i)}
        <p class="soft text-[12px]">
          {step.do === 'go' && step.target.to === 'back' ? 'back to the frame before' : stepWords(step, scope)}
        </p>
      {:else}<p class="text-[var(--brick-text)]">No step yet.</p>{/each}
    {/if}
  {/each}
</div>
