<script lang="ts">
  import { count } from '@zany/core';
  import ChipMenu from '$lib/shared/ChipMenu.svelte';
  import { useSession } from '$lib/shared/desk.svelte';
  import Thumb from '$lib/shared/Thumb.svelte';
  import type { Verdict } from '$lib/shared/types';
  import { nameOf, namedLine, sceneOfLine, toldOf, verdicts, type Coverage, type Said } from './coverage.svelte';

  /** What those who walked the piece said of what they walked: what is not as it should be first. */
  interface Props {
    coverage: Coverage;
    onjump: (frame: string) => void;
    onopen: (said: Said) => void;
  }
  let { coverage, onjump, onopen }: Props = $props();

  const session = useSession();
  /** By whom; null for oneself, undefined for everybody. */
  let by: string | null | undefined = $state();

  const all = $derived(coverage.said(session.program));
  const kinds = Object.keys(verdicts) as Verdict[];
  const people = $derived([...new Set(all.map((one) => one.by))]);
  const seen = $derived(all.filter((one) => by === undefined || one.by === by));
  const told = $derived(toldOf(seen));
  const numbers = $derived(
    ([...kinds, null] as const).flatMap((verdict) => {
      const number = seen.filter((one) => one.verdict === verdict).length;
      return number ? `${number} ${verdict ? verdicts[verdict].words : 'without a word on it'}` : [];
    })
  );
</script>

{#if all.length}
  <section class="border-t border-[var(--line)]" aria-label="What was said">
    <div class="flex items-center gap-2 bg-[var(--rim)] px-3.5 py-1">
      <h3 class="flex-1 text-[12px]">what was said</h3>
      {#if people.length > 1}
        <ChipMenu
          name="By whom"
          label={by === undefined ? 'everybody' : nameOf(by)}
          tone={by === undefined ? 'chip-ghost' : 'chip-teal'}
          options={[{ value: undefined, label: 'everybody' }, ...people.map((who) => ({ value: who, label: nameOf(who) }))]}
          onpick={(who: string | null | undefined) => (by = who)}
        />
      {/if}
    </div>
    <p class="soft px-3.5 py-1.5">{count(seen.length, 'branch', 'branches')} walked: {numbers.join(', ')}.</p>
    {#each told as said, i (i)}
      {@const scene = sceneOfLine(session.program, said.thread)}
      {@const line = namedLine(session.program, said.thread)}
      <article class="flex gap-2.5 border-t border-[var(--line)] px-3.5 py-2" aria-label="Said of {line}">
        {#if scene}<span class="shrink-0 self-start border border-[var(--line)]"
            ><Thumb {scene} assetUrl={session.assetUrl} width={40} height={54} /></span
          >{/if}
        <div class="min-w-0 flex-1">
          <p class="truncate font-semibold" title={line}>
            {#if said.verdict}<span class={said.verdict === 'fail' ? 'text-[var(--brick)]' : 'text-[var(--teal)]'}
                >{verdicts[said.verdict].sign} {verdicts[said.verdict].words}</span
              >{:else}noted{/if}
          </p>
          {#if said.note}<p class="break-words">“{said.note}”</p>{/if}
          <p class="soft truncate" title={line}>{line}</p>
          <p class="soft">{scene ? `on ${scene.scene.name}, ` : ''}{nameOf(said.by)}</p>
          <div class="mt-1 flex gap-1">
            {#if scene?.scene.use === 'frame'}<button class="chip" onclick={() => onjump(scene.scene.id)}>go there</button>{/if}
            <button class="chip chip-ghost" onclick={() => onopen(said)}>open it</button>
          </div>
        </div>
      </article>
    {/each}
  </section>
{/if}
