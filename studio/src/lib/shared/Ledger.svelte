<script lang="ts">
  import { printLine, scopeOf, type Report } from '@zany/core';
  import type { EditorSession } from '$lib/client/session.svelte';

  let { session, onopen }: { session: EditorSession; onopen?: (layer: string) => void } = $props();

  const scope = $derived(scopeOf(session.piece));
  const layerName = (id: string | null) => (id === null ? 'the frame' : (session.piece.layers.get(id)?.name ?? 'a layer that is gone'));

  function headline({ event, layer }: Report): string {
    if (event.type === 'key') return `pressed ${event.key}`;
    if (event.type === 'wait') return `${event.ms} ms had passed`;
    if (event.type === 'move' || event.type === 'hover') return `came onto ${layerName(layer)}`;
    if (event.type === 'jump') return `jumped to ${session.piece.scenes.get(event.frame)?.name ?? ''}`;
    return `clicked ${layerName(layer)}`;
  }

  const line = (id: string) => {
    const thread = session.piece.threads.get(id);
    return thread ? printLine(thread, scope) : 'a thread that is gone';
  };
  const clock = (ms: number) => `${String(Math.floor(ms / 60_000)).padStart(2, '0')}:${((ms % 60_000) / 1000).toFixed(1).padStart(4, '0')}`;
  const frame = $derived(session.run ? session.piece.scenes.get(session.run.frame) : undefined);
</script>

<aside class="scroll flex min-h-0 flex-col gap-2 border-l border-[var(--line)] bg-[var(--sheet)] px-3.5 py-2.5" aria-label="Ledger">
  <h2 class="text-[15px]">Ledger</h2>
  {#if session.run}
    <dl class="grid grid-cols-[1fr_auto] items-center gap-y-1.5">
      <dt>Frame</dt>
      <dd class="chip chip-teal">{frame?.name ?? ''}</dd>
      <dt>Back leads to</dt>
      <dd class="chip chip-teal">{session.piece.scenes.get(session.run.back.at(-1) ?? '')?.name ?? 'nothing'}</dd>
    </dl>
  {/if}
  <div class="flex flex-col gap-2.5 border-t border-dashed border-[var(--line)] pt-2" role="log" aria-label="What happened, the latest first">
    {#each session.ledger as report, i (session.ledger.length - i)}
      <div class="flex flex-col gap-1">
        <p class="soft"><span class="tabular-nums">{clock(report.clock)}</span> {headline(report)}</p>
        {#each report.fired as fired, at (at)}
          <div class="stitch">
            {#each fired.steps as step, s (s)}<p class={step.done ? 'font-semibold' : 'text-[var(--brick-text)]'}>{step.sentence}</p>{/each}
            <p class="soft text-[12px]">{line(fired.thread)}</p>
          </div>
        {/each}
        {#if report.whyNot.length && report.effects.length === 0}
          <div class="stitch !border-l-[var(--brick)]">
            <p class="font-semibold text-[var(--brick-text)]">Why nothing happened</p>
            {#each report.whyNot as why, w (w)}
              <p>
                {why.sentence}
                {#if why.layer && onopen && session.piece.layers.has(why.layer)}<button class="chip" onclick={() => onopen(why.layer!)}
                    >to {layerName(why.layer)}</button
                  >{/if}
              </p>
            {/each}
          </div>
        {/if}
      </div>
    {:else}
      <p class="soft">Press something: every thread that fires is written down here, and why when nothing does.</p>
    {/each}
  </div>
</aside>
