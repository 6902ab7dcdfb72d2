<script lang="ts">
  import type { Change } from '@zany/core';
  import { useSession } from '$lib/shared/desk.svelte';

  const session = useSession();
  let open = $state(false);
  let changes: readonly Change[] | null = $state.raw(null);
  let isKnown = $state(false);

  const marks: Partial<Record<Change['kind'], string>> = {
    'new loose end': '✕',
    mended: '✓',
    reached: '+',
    'not reached': '−',
    shorter: '↓',
    longer: '↑',
  };

  $effect(() => {
    if (!open || !session.auditIsDone) return;
    isKnown = false;
    void session.changes().then((found) => ([changes, isKnown] = [found, true]));
  });
</script>

<details class="border-t border-[var(--line)]" bind:open>
  <summary class="cursor-pointer bg-[var(--rim)] px-3.5 py-1 text-[12px]">since you opened it</summary>
  {#if !isKnown || changes === null}
    <p class="soft px-3.5 py-2">Walking it…</p>
  {:else}
    <ul class="px-3.5 py-1.5" aria-label="Since you opened it">
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
        <li class="soft">It does what it did when you opened it, as far as the walk can tell.</li>
      {/each}
    </ul>
  {/if}
</details>
