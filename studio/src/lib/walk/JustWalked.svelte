<script lang="ts">
  import AskLine from '$lib/shared/AskLine.svelte';
  import { useSession } from '$lib/shared/desk.svelte';
  import { MOST_WALK_NOTE, type Verdict } from '$lib/shared/types';
  import { namedLine, verdicts, type Coverage } from './coverage.svelte';

  /** What the last step fired, to say whether it did what it should. */
  interface Props {
    coverage: Coverage;
    fired: readonly { readonly thread: string; readonly branch: number }[];
  }
  let { coverage, fired }: Props = $props();

  const session = useSession();
  let noting: string | null = $state(null);

  const lines = $derived(
    fired.flatMap(({ thread, branch }) => {
      const line = namedLine(session.program, thread);
      const known = coverage.own(session.program, thread, branch);
      return line === '' ? [] : [{ key: `${thread}/${branch}`, thread, branch, line, verdict: known?.verdict ?? null, note: known?.note ?? '' }];
    })
  );
  const kinds = Object.entries(verdicts) as [Verdict, (typeof verdicts)[Verdict]][];
</script>

<div class="flex flex-col gap-1" role="group" aria-label="Just walked">
  {#each lines.slice(-3) as one (one.key)}
    <div class="flex items-center gap-1.5">
      <span class="soft shrink-0">just walked</span>
      <span class="min-w-0 truncate" title={one.line}>{one.line}</span>
      {#each kinds as [verdict, { words, sign }] (verdict)}
        {@const isSaid = one.verdict === verdict}
        <button
          class="chip shrink-0 {isSaid ? (verdict === 'pass' ? 'chip-teal' : 'chip-brick') : ''}"
          aria-pressed={isSaid}
          onclick={() => coverage.say(session.program, one.thread, one.branch, { verdict: isSaid ? null : verdict })}>{sign} {words}</button
        >
      {/each}
      {#if noting === one.key}
        <AskLine
          label="Note on {one.line}"
          placeholder="what you saw"
          act="Note"
          most={MOST_WALK_NOTE}
          empty
          begin={one.note}
          class="w-[220px]"
          onsay={(note) => {
            coverage.say(session.program, one.thread, one.branch, { note: note.trim() });
            noting = null;
          }}
          onclose={() => (noting = null)}
        />
      {:else}
        <button class="chip chip-ghost min-w-0 shrink truncate" title={one.note} onclick={() => (noting = one.key)}
          >{one.note ? `“${one.note}”` : 'note…'}</button
        >
      {/if}
    </div>
  {/each}
</div>
