<script lang="ts">
  import { count, listWords } from '@zany/core';
  import { max } from 'd3-array';
  import { scaleLinear } from 'd3-scale';
  import { unparse } from 'papaparse';
  import { onMount } from 'svelte';
  import { ask } from '$lib/client/api';
  import { useSession } from '$lib/shared/desk.svelte';
  import { download } from '$lib/shared/download';
  import { roleMay } from '$lib/shared/rights';
  import { momentOf } from '$lib/shared/moments';
  import { isUnderWay } from '$lib/shared/errands';
  import type { ReviewLink, ReviewResults, ShortestWays } from '$lib/shared/types';
  import { Asked } from './asking.svelte';
  import { useErrands } from './errands.svelte';
  import PressedFrame from './PressedFrame.svelte';
  import { framesOfGo, missedOn, pressesByFrame, sheetOf, taskResult, waysWalked } from './results';
  import StepChart from './StepChart.svelte';

  /** What was done by a review link: what stands out first, then task by task, frame by frame, person by person. */
  let { link }: { link: ReviewLink } = $props();

  const session = useSession();
  // svelte-ignore state_referenced_locally
  const asked = new Asked<ReviewResults>(session, `links/${link.id}/results`);
  const results = $derived(asked.value);
  const nameOf = (id: string) => session.piece.scenes.get(id)?.name ?? 'a frame that is gone';

  /** Looked for by the server, which may take long; null while it is not known. */
  let shortest: ShortestWays | null = $state.raw(null);
  const errands = useErrands();
  const looking = $derived(errands.all.find((one) => one.wish.kind === 'shortest' && one.wish.link === link.id && isUnderWay(one)));
  let isAsked = $state(false);
  async function lookForShortest() {
    isAsked = true;
    const errand = await errands.make({ kind: 'shortest', link: link.id });
    const answer = errand?.state === 'done' ? await ask<ShortestWays>('GET', errands.fileOf(errand)) : null;
    isAsked = false;
    if (answer?.ok) shortest = answer.value;
    else if (answer || errand?.problem) session.notify(answer ? answer.error.sentence : errand!.problem!);
  }
  onMount(() => void (link.tasks.length && lookForShortest()));

  const tasks = $derived(results ? link.tasks.map((task) => taskResult(task, results, shortest)) : []);
  const presses = $derived(results ? pressesByFrame(results.trails) : []);
  const ways = $derived(results ? waysWalked(results.trails) : []);
  const mostWays = $derived(max(ways, (way) => way.count) ?? 1);
  const thickness = $derived(scaleLinear([0, mostWays], [0, 100]));
  const people = $derived(
    (results?.holders ?? []).map((one) => ({
      ...one,
      goes: results!.trails.filter(({ holder }) => holder === one.id),
    }))
  );
  const lost = $derived(results?.trails.filter(({ steps }) => steps === null).length ?? 0);

  const seconds = (ms: number) => (ms < 90_000 ? `${Math.round(ms / 1000)} s` : `${Math.round(ms / 60_000)} min`);
  /** A task within a sentence. */
  const quoted = (sentence: string) => `“${sentence.replace(/[.!?…]+$/, '')}”`;
  const persons = (n: number) => count(n, 'person', 'people');
  const rounded = (n: number) => (Number.isInteger(n) ? String(n) : n.toFixed(1));

  const layerName = (path: string | null) =>
    path === null ? 'beside all layers' : `on ${session.piece.layers.get(path.split('/').at(-1)!)?.name ?? 'a layer that is gone'}`;
  const missWords = (frame: string) =>
    listWords(
      missedOn(results!.trails, frame)
        .slice(0, 3)
        .map(({ under, whyNot, count: n }) => `${n} ${layerName(under)}${whyNot ? ` (${whyNot.replace(/[.!?]+$/, '')})` : ''}`)
    );

  /** What somebody who reads nothing else should know, the gravest first. */
  const sentences = $derived.by(() => {
    const said: { weight: number; text: string }[] = [];
    for (const { task, goes, reached, shortest, steps, partings } of tasks) {
      if (goes.length === 0) continue;
      const lostOnes = goes.length - reached;
      if (lostOnes > 0)
        said.push({ weight: 2 + lostOnes / goes.length, text: `${lostOnes} of ${goes.length} did not get to the end of ${quoted(task.sentence)}.` });
      const [worst] = partings;
      if (worst)
        said.push({
          weight: 2 + worst.count / goes.length - 0.01,
          text: `At ${quoted(task.sentence)} ${persons(worst.count)} ${worst.to === null ? `went no further than ${nameOf(worst.at)}` : `went from ${nameOf(worst.at)} to ${nameOf(worst.to)} instead of where the shortest way goes on`}.`,
        });
      if (steps !== null && shortest !== null && steps > shortest * 1.5)
        said.push({
          weight: 1 + steps / shortest / 10,
          text: `${quoted(task.sentence)} took ${rounded(steps)} steps at the median; ${shortest} are enough.`,
        });
    }
    for (const { frame, nothing, presses: all } of presses)
      if (nothing > 1)
        said.push({
          weight: nothing / all.length,
          text: `On ${nameOf(frame)} ${nothing} of ${count(all.length, 'press', 'presses')} met nothing: ${missWords(frame)}.`,
        });
    return said.sort((a, b) => b.weight - a.weight).slice(0, 6);
  });

  function save() {
    if (!results) return;
    const text = unparse(sheetOf(results, shortest, link.tasks, nameOf), { escapeFormulae: true });
    download(new Blob([text], { type: 'text/csv' }), `${session.piece.head.name}, ${link.name}.csv`);
  }

  async function forget(holder: string) {
    const answer = await ask('DELETE', `/api/pieces/${session.id}/links/${link.id}/holders/${holder}`);
    if (!answer.ok) session.notify(answer.error.sentence);
    await asked.read();
  }
  let sure: string | null = $state(null);
</script>

<div class="flex flex-col gap-7">
  <div class="flex items-center gap-3">
    <a class="chip" href="?page=review">‹ all links</a>
    <h3 class="flex-1 text-[19px]">{link.name}: what they did</h3>
    <a class="act" href="/p/{session.id}/map?results={link.id}">On the map</a>
    <button class="act" disabled={!results} onclick={save}>As a sheet (CSV)</button>
  </div>

  {#if !results}
    <p class="soft">Running again what they did…</p>
  {:else}
    <section aria-label="What stands out">
      {#if sentences.length}
        <ol class="flex flex-col gap-1.5">
          {#each sentences as { text }, i (i)}<li class="rounded-lg bg-[var(--gold-wash)] px-3 py-2 text-[15px]">{text}</li>{/each}
        </ol>
      {:else if results.trails.length === 0}<p class="soft">{persons(results.holders.length)} came in; nobody has walked yet.</p>
      {:else}<p>Nothing stands out: who was at a task got there, and hardly a press met nothing.</p>{/if}
      {#if results.leftOut || lost}
        <p class="soft mt-2">
          {listWords(
            [
              results.leftOut ? `${count(results.leftOut, 'older go', 'older goes')} are not counted` : '',
              lost ? `${count(lost, 'go', 'goes')} cannot be run again: the frame that it began on is gone, or it takes too long` : '',
            ].filter(Boolean)
          )}.
        </p>
      {/if}
    </section>

    {#if !shortest && link.tasks.length && results.trails.length}
      <p class="soft flex items-center gap-3" role="status">
        {#if isAsked}
          The shortest ways are being looked for{looking?.said ? `: ${looking.said}` : ''}…
          {#if looking}<button class="chip" onclick={() => errands.stop(looking)}>Stop</button>{/if}
        {:else}
          The shortest ways are not known, so goes are held against nothing.
          <button class="chip" onclick={lookForShortest}>Look for them</button>
        {/if}
      </p>
    {/if}

    {#each tasks as one (one.task.id)}
      {@const all = one.goes.length}
      <section class="flex flex-col gap-3 border-t border-dashed border-[var(--gold)] pt-4" aria-label={one.task.sentence}>
        <h4 class="text-[16px] font-semibold">{one.task.sentence}</h4>
        {#if all === 0}<p class="soft">Nobody was at it yet.</p>
        {:else}
          <div
            class="flex h-7 overflow-hidden rounded-md text-[12.5px] font-semibold"
            role="img"
            aria-label="{one.reached} reached it, {one.givenUp} gave up, {one.left} left"
          >
            {#if one.reached}<span class="grid place-items-center bg-[#0b7a75] text-white" style:flex={one.reached}>{one.reached} got there</span
              >{/if}
            {#if one.givenUp}<span class="grid place-items-center bg-[#b23a26] text-white" style:flex={one.givenUp}>{one.givenUp} gave up</span>{/if}
            {#if one.left}<span class="grid place-items-center bg-[var(--line)]" style:flex={one.left}>{one.left} left</span>{/if}
          </div>
          <p>
            {#if one.steps !== null}Those who got there took {rounded(one.steps)} steps and {seconds(one.ms!)} at the median.{/if}
            {one.shortest !== null
              ? `The shortest way that was found takes ${count(one.shortest, 'step')}.`
              : shortest
                ? 'No shortest way was found to hold them against.'
                : ''}
            {one.nothing ? `${count(one.nothing, 'press', 'presses')} met nothing on the way.` : ''}
          </p>
          <StepChart goes={one.goes} shortest={one.shortest} nameOf={(holder) => results.holders.find(({ id }) => id === holder)?.name ?? ''} />
          {#if one.partings.length}
            <p class="soft">Where ways part from the shortest:</p>
            <ul class="flex flex-col gap-0.5">
              {#each one.partings.slice(0, 8) as { at, to, count: n } (`${at}>${to}`)}
                <li><b>{n}</b> at {nameOf(at)}: {to === null ? 'no further' : `to ${nameOf(to)}`}</li>
              {/each}
            </ul>
          {/if}
        {/if}
      </section>
    {/each}

    {#if presses.length}
      <section class="flex flex-col gap-3 border-t border-dashed border-[var(--gold)] pt-4" aria-label="Presses">
        <h4 class="text-[16px] font-semibold">Where they pressed</h4>
        <p class="soft">● something came of it &nbsp; ✕ it met nothing</p>
        <div class="flex flex-wrap gap-5">
          {#each presses.slice(0, 24) as one (one.frame)}<PressedFrame {...one} words={one.nothing ? missWords(one.frame) : ''} />{/each}
        </div>
        {#if presses.length > 24}<p class="soft">{count(presses.length - 24, 'other frame')} with fewer are not shown.</p>{/if}
      </section>
      <section class="flex flex-col gap-2 border-t border-dashed border-[var(--gold)] pt-4" aria-label="Ways">
        <h4 class="text-[16px] font-semibold">Ways they went</h4>
        {#each ways.slice(0, 20) as { from, to, count: n } (`${from}>${to}`)}
          <div class="grid grid-cols-[220px_minmax(0,1fr)_32px] items-center gap-3">
            <span class="truncate">{nameOf(from)} → {nameOf(to)}</span>
            <span class="block h-2 rounded-full bg-[var(--gold)]" style:width="{thickness(n)}%"></span>
            <span class="text-right tabular-nums">{n}</span>
          </div>
        {/each}
        {#if ways.length > 20}<p class="soft">{count(ways.length - 20, 'other way')} gone less often are not shown.</p>{/if}
      </section>
    {/if}

    <section class="flex flex-col gap-2 border-t border-dashed border-[var(--gold)] pt-4" aria-label="People">
      <h4 class="text-[16px] font-semibold">People</h4>
      {#each people as one (one.id)}
        <details>
          <summary class="flex cursor-pointer items-center gap-3">
            <span class="font-semibold">{one.name}</span>
            <span class="soft flex-1">{momentOf(one.came)}</span>
            <span class="soft">{count(one.goes.length, 'go', 'goes')}</span>
          </summary>
          <ul class="my-1 ml-4 flex flex-col gap-1">
            {#each one.goes as go (go.id)}
              <li>
                <b>{link.tasks.find(({ id }) => id === go.task)?.sentence ?? 'Freely'}</b>
                {go.task === null ? '' : go.reached ? `reached in ${count(go.reached.steps, 'step')}` : go.givenUp ? 'given up' : 'left'}{go.isFull
                  ? ' (more was done than was kept)'
                  : ''}:
                <span class="soft">{go.steps ? framesOfGo(go.from, go.steps).map(nameOf).join(' → ') : 'cannot be run again'}</span>
              </li>
            {/each}
          </ul>
          {#if roleMay(session.role, 'make links')}
            {#if sure === one.id}
              <span class="ml-4">Delete {one.name} and all of it?</span>
              <button class="act act-go" onclick={() => forget(one.id)}>Delete</button>
              <button class="act" onclick={() => (sure = null)}>Keep</button>
            {:else}<button class="chip ml-4" onclick={() => (sure = one.id)}>delete what {one.name} did</button>{/if}
          {/if}
        </details>
      {/each}
    </section>
  {/if}
</div>
