<script lang="ts">
  import { nameOfState, printLine, resolveScreen, scopeFor, valueOfVariable, valueWords, type Value } from '@zany/core';
  import { fieldKey } from './focus';
  import ChipMenu from './ChipMenu.svelte';
  import { nameOfNode, type Entry } from './ledger-entries';
  import type { EditorSession } from '$lib/client/session.svelte';

  interface Props {
    session: EditorSession;
    onopen?: (layer: string) => void;
    /** Sets a variable of the running piece by hand. */
    onset?: (variable: string, value: Value) => void;
    /** Goes back to how it was after an entry. */
    onback?: (entry: Entry) => void;
  }
  let { session, onopen, onset, onback }: Props = $props();

  /** Variables and states as they are now. */
  const values = $derived.by(() => {
    const { run, program } = session;
    if (!run) return [];
    const variables = [...program.variables.values()]
      .filter((variable) => variable.scene === null)
      .map((variable) => {
        const now = valueOfVariable(program, run, variable.id, variable.id);
        return { name: variable.name, value: valueWords(now), variable, now };
      });
    const states = resolveScreen(program, run).surfaces.flatMap((surface) =>
      [...surface.expansion.instances.values()]
        .filter((instance) => instance.scene.states.length > 0)
        .map((instance) => ({
          variable: null,
          now: '' as Value,
          name: `${instance.placement?.layer.name ?? instance.scene.scene.name}.state`,
          value: nameOfState(run.roots[surface.scene]!, instance),
        }))
    );
    return [...variables, ...states];
  });

  const line = (id: string) => {
    const thread = session.piece.threads.get(id);
    return thread ? printLine(thread, scopeFor(session.piece, thread)) : 'a thread that is gone';
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
      {#each values as { name, value, variable, now } (name)}
        <dt class="truncate">{name}</dt>
        {#if variable && onset}
          <dd>
            {#if variable.type === 'yes/no'}
              <button class="chip chip-teal" aria-label="Set {name}" title="Set by hand" onclick={() => onset(variable.id, now !== true)}
                >{value}</button
              >
            {:else if variable.type === 'choice'}
              <ChipMenu
                name="Set {name}"
                label={value}
                tone="chip-teal"
                options={(variable.options ?? []).map((option) => ({ value: option, label: option }))}
                onpick={(option) => onset(variable.id, option)}
              />
            {:else}
              <input
                class="field h-[22px] w-[104px] !px-1 text-right"
                type={variable.type === 'number' ? 'number' : 'text'}
                value={now}
                aria-label="Set {name}"
                title="Set by hand"
                onkeydown={fieldKey}
                onchange={(event) =>
                  onset(variable.id, variable.type === 'number' ? event.currentTarget.valueAsNumber || 0 : event.currentTarget.value)}
              />
            {/if}
          </dd>
        {:else}<dd class="chip chip-teal max-w-[120px] truncate">{value}</dd>{/if}
      {/each}
    </dl>
  {/if}
  <div class="flex flex-col gap-2.5 border-t border-dashed border-[var(--line)] pt-2" role="log" aria-label="What happened, the latest first">
    {#each session.ledger as report, i (session.ledger.length - i)}
      <div class="flex flex-col gap-1">
        <p class="soft flex items-baseline gap-1.5">
          <span class="min-w-0 flex-1"><span class="tabular-nums">{clock(report.clock)}</span> {report.headline}</span>
          {#if onback && i > 0}<button
              class="chip chip-ghost shrink-0"
              aria-label="Back to here: {report.headline}"
              title="Go on from how it was after this"
              onclick={() => onback(report)}>back to here</button
            >{/if}
        </p>
        {#if report.changes.length}<p class="font-semibold text-[var(--teal)]">{report.changes.join(' → ')}</p>{/if}
        {#each report.fired as fired, at (at)}
          <div class="stitch">
            {#each fired.steps as step, s (s)}<p class={step.done ? 'font-semibold' : 'text-[var(--brick-text)]'}>{step.sentence}</p>{/each}
            <p class="soft text-[12px]">{line(fired.thread)}</p>
          </div>
        {/each}
        {#if report.whyNot.length && (report.effects.length === 0 || report.changes.length > 0)}
          <div class="stitch !border-l-[var(--brick)]">
            <p class="font-semibold text-[var(--brick-text)]">
              {report.fired.length || report.changes.length ? 'What did not happen' : 'Why nothing happened'}
            </p>
            {#each report.whyNot as why, w (w)}
              <p>
                {why.sentence}
                {#if why.layer && onopen && session.piece.layers.has(why.layer.split('/')[0]!)}<button
                    class="chip"
                    onclick={() => onopen(why.layer!.split('/')[0]!)}>to {nameOfNode(session.piece, why.layer)}</button
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
