<script lang="ts">
  import { goto } from '$app/navigation';
  import { count, MAX_OPERATIONS, operationsToward, routeWords, takeScene, takeThread, type Result, type TakenOver } from '@zany/core';
  import { ask } from '$lib/client/api';
  import ChangeList from '$lib/walk/ChangeList.svelte';
  import { useSession } from '$lib/shared/desk.svelte';
  import FramePair from './FramePair.svelte';
  import ThreadPairs from './ThreadPairs.svelte';
  import { versionName } from './version-words';
  import type { Comparing, Versions, Which } from './versions.svelte';

  /** What differs between two versions: what they do, how frames look, threads, all else; and what can be taken back from the earlier one. */
  interface Props {
    versions: Versions;
    comparing: Comparing;
    before: Which;
    after: Which;
    onchoose: (before: Which | undefined, after: Which) => void;
  }
  let { versions, comparing, before, after, onchoose }: Props = $props();

  const session = useSession();
  const names = $derived({ before: versionName(before, versions.list), after: versionName(after, versions.list) });
  const written = $derived(comparing.written);
  const isSame = $derived(written !== null && written.scenes.length + written.threads.length + written.rest.length === 0);
  /** Taking over goes into the piece as it is now. */
  const mayTake = $derived(session.canEdit && after === null);
  /** The piece has changed since it was compared. */
  const isBehind = $derived(after === null && session.program !== comparing.after);

  const MOST_SHOWN = 12;
  let isAllShown = $state(false);
  const scenes = $derived(isAllShown ? (written?.scenes ?? []) : (written?.scenes ?? []).slice(0, MOST_SHOWN));

  const options = $derived([
    { value: 'now', label: 'now' },
    ...(versions.list ?? []).map(({ revision }) => ({ value: String(revision), label: versionName(revision, versions.list) })),
  ]);
  const isListed = (which: Which) => which === null || (versions.list ?? []).some(({ revision }) => revision === which);

  function take(name: string, made: Result<TakenOver>) {
    if (!made.ok) return session.notify(made.error.sentence);
    const { operations, leaves } = made.value;
    if (operations.length === 0) return session.notify('It is as it was there already.');
    if (!session.edit(name, operations, 'plain')) return;
    session.notify(leaves.length ? `${name}: done. ${leaves.slice(0, 3).join('; ')}.` : `${name}: done.`, {
      label: 'Undo',
      run: () => session.undo(),
    });
  }
  const takeFrame = (scene: string, name: string) =>
    take(`Take over ${name} from ${names.before}`, takeScene(session.piece, comparing.before.piece, scene));
  const takeLine = (thread: string) => take(`Take over a thread from ${names.before}`, takeThread(session.piece, comparing.before.piece, thread));

  function restore() {
    const operations = operationsToward(session.piece, comparing.before.piece);
    if (operations.length === 0) return session.notify('The piece is as it was there already.');
    if (operations.length > MAX_OPERATIONS)
      return session.notify(
        `It differs in ${operations.length} things, more than one edit can hold. Open the version as a piece of its own instead.`
      );
    if (!session.edit(`Restore ${names.before}`, operations, 'plain')) return;
    session.notify(`The piece is as it was at ${names.before}. What you had is a version too.`, { label: 'Undo', run: () => session.undo() });
    void versions.read();
    void versions.compare(before, null);
  }

  let isCopying = $state(false);
  async function copy() {
    isCopying = true;
    const answer = await ask<{ id: string }>('POST', `/api/pieces/${session.id}/duplicate?revision=${before}`);
    isCopying = false;
    if (!answer.ok) return session.notify(answer.error.sentence);
    await goto(`/p/${answer.value.id}/build`);
  }
</script>

<div class="flex flex-col gap-6">
  <div class="flex flex-wrap items-center gap-x-3 gap-y-2">
    <h3 class="text-[19px]">From {names.before}</h3>
    <label class="flex items-center gap-2"
      >to <select
        class="field h-8"
        aria-label="The version that it is compared with"
        value={after === null ? 'now' : String(after)}
        onchange={(event) => onchoose(before, event.currentTarget.value === 'now' ? null : Number(event.currentTarget.value))}
      >
        {#if !isListed(after)}<option value={String(after)}>{names.after}</option>{/if}
        {#each options as { value, label } (value)}<option {value}>{label}</option>{/each}
      </select></label
    >
    {#if after !== null}<button class="chip" onclick={() => onchoose(after, before)}>the other way round</button>{/if}
    <span class="flex-1"></span>
    {#if mayTake && before !== null}<button class="act h-8" onclick={restore} disabled={isSame || written === null}>Restore it</button>{/if}
    {#if before !== null}<button class="act h-8" onclick={copy} disabled={isCopying}>Open as a piece of its own</button>{/if}
    <button class="chip chip-ghost" onclick={() => onchoose(undefined, null)}>close</button>
  </div>
  {#if isBehind}
    <p class="soft" role="status">
      The piece has changed since. <button class="chip chip-gold" onclick={() => void versions.compare(before, after)}>compare again</button>
    </p>
  {/if}
  {#if comparing.problem}<p class="chip chip-brick">{comparing.problem}</p>{/if}

  {#if written === null}
    <p class="soft">Comparing…</p>
  {:else if isSame}
    <p class="text-[15px]">They are the same: nothing in them differs.</p>
  {:else}
    <p class="text-[15px]">
      {count(written.scenes.length, 'frame or part', 'frames and parts')} and {count(written.threads.length, 'thread')}
      {written.scenes.length + written.threads.length === 1 ? 'differs' : 'differ'}{written.rest.length
        ? `, and ${count(written.rest.length, 'other thing')}`
        : ''}.
    </p>
    <section aria-label="What it does">
      <h3 class="mb-2 text-[17px]">What it does</h3>
      {#if comparing.changes === null && comparing.isStopped}
        <p class="soft">
          Walking was stopped: of what they do nothing is known. <button class="chip" onclick={() => void versions.compare(before, after)}
            >walk both</button
          >
        </p>
      {:else if comparing.changes === null}
        <p class="soft" role="status">
          Walking both{comparing.progress
            ? `: ${comparing.progress.states.toLocaleString('en-GB')} states of ${names[comparing.progress.which]}`
            : ''}…
          <button class="chip" onclick={() => comparing.stop()}>stop</button>
        </p>
      {:else}
        <ChangeList changes={comparing.changes} label="What it does otherwise" />
        {#if comparing.changes.length === 0}<p class="soft">Frames, steps, branches and loose ends: no difference was found.</p>{/if}
        {#each ['before', 'after'] as const as side (side)}
          {#if comparing.cut[side]}<p class="soft">
              <span class="chip chip-part">◐ not all walked</span> Exploring {names[side]} was cut ({comparing.cut[side]}): of what lies beyond
              nothing is said.
            </p>{/if}
        {/each}
        {#if comparing.apart === null && comparing.isStopped}<p class="soft">Telling them apart was stopped.</p>
        {:else if comparing.apart === null}<p class="soft">Looking for the shortest way to tell them apart…</p>
        {:else if comparing.apart.kind === 'same'}<p>They do the same: nothing that can be done tells them apart.</p>
        {:else if comparing.apart.kind === 'apart'}<p>
            They are told apart by this: <b>{routeWords(comparing.before, comparing.apart.from, comparing.apart.events)}</b>.
            {comparing.apart.sentences.join(' ')}
          </p>
        {:else}<p class="soft">Nothing that was looked at tells them apart, but not all was: {comparing.apart.why}.</p>{/if}
      {/if}
    </section>
    {#if written.threads.length}
      <section aria-label="Threads">
        <h3 class="mb-2 text-[17px]">Threads</h3>
        <ThreadPairs changes={written.threads} ontake={mayTake ? takeLine : undefined} />
      </section>
    {/if}
    {#if written.scenes.length}
      <section aria-label="Frames and parts">
        <h3 class="mb-2 text-[17px]">Frames and parts</h3>
        <ul class="flex flex-col gap-6">
          {#each scenes as change (change.scene)}
            <li class="border-t border-dashed border-[var(--gold)] pt-3" aria-label={change.name}>
              <div class="mb-2 flex items-center gap-3">
                <h4 class="text-[15px] font-bold">{change.name}</h4>
                <span class="chip {change.kind === 'added' ? 'chip-teal' : change.kind === 'removed' ? 'chip-brick' : 'chip-gold'}"
                  >{change.kind === 'added'
                    ? 'new'
                    : change.kind === 'removed'
                      ? 'gone'
                      : change.kind === 'changed'
                        ? 'changed'
                        : 'by what is in it'}</span
                >
                <span class="flex-1"></span>
                {#if mayTake && change.kind !== 'same but for what is in it'}
                  <button
                    class="chip"
                    aria-label="{change.kind === 'added' ? 'Remove' : 'Take over'} {change.name}"
                    onclick={() => takeFrame(change.scene, change.name)}
                    >{change.kind === 'added' ? 'remove it again' : change.kind === 'removed' ? 'bring it back' : 'as it was'}</button
                  >
                {/if}
              </div>
              <div class="grid grid-cols-[max-content_minmax(0,1fr)] gap-5 max-[1180px]:grid-cols-1">
                {#if change.looks.length || change.kind === 'added' || change.kind === 'removed'}
                  <FramePair {change} before={comparing.before} after={comparing.after} assetUrl={session.assetUrl} {names} />
                {:else}<p class="soft">It looks the same.</p>{/if}
                <ul class="flex min-w-0 flex-col gap-1 text-[13px]">
                  {#each change.what as line (line)}<li>{line}</li>{/each}
                  {#each change.layers as { layer, name, kind, what } (layer)}
                    <li><b>{name}</b> {kind === 'changed' ? what.join('; ') : kind === 'added' ? 'is new' : 'is gone'}</li>
                  {/each}
                </ul>
              </div>
            </li>
          {/each}
        </ul>
        {#if written.scenes.length > scenes.length}
          <button class="chip mt-4" onclick={() => (isAllShown = true)}>show the other {written.scenes.length - scenes.length}</button>
        {/if}
      </section>
    {/if}
    {#if written.rest.length}
      <section aria-label="All else">
        <h3 class="mb-2 text-[17px]">All else</h3>
        <ul class="flex list-disc flex-col gap-1 pl-5">
          {#each written.rest as line (line)}<li>{line}</li>{/each}
        </ul>
      </section>
    {/if}
  {/if}
</div>
