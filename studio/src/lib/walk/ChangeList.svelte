<script lang="ts">
  import type { Change } from '@zany/core';

  /** What a piece does otherwise, a sentence each, with a mark for whether that is more or less. */
  let { changes, label, empty = '' }: { changes: readonly Change[]; label: string; empty?: string } = $props();

  const marks: Partial<Record<Change['kind'], string>> = {
    'new loose end': '✕',
    mended: '✓',
    reached: '+',
    'not reached': '−',
    shorter: '↓',
    longer: '↑',
  };
</script>

<ul aria-label={label}>
  {#each changes as change, i (i)}
    <li class="flex gap-2 py-0.5">
      <span
        class="w-3 shrink-0 text-center {change.kind === 'new loose end' || change.kind === 'not reached'
          ? 'text-[var(--brick)]'
          : 'text-[var(--teal)]'}">{marks[change.kind] ?? '·'}</span
      >
      <span class="min-w-0">{change.sentence}</span>
    </li>
  {:else}
    {#if empty}<li class="soft">{empty}</li>{/if}
  {/each}
</ul>
