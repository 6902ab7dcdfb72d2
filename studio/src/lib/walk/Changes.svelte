<script lang="ts">
  import type { Change } from '@zany/core';
  import { useSession } from '$lib/shared/desk.svelte';
  import ChangeList from './ChangeList.svelte';

  const session = useSession();
  let open = $state(false);
  let changes: readonly Change[] | null = $state.raw(null);
  let isKnown = $state(false);

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
    <div class="px-3.5 py-1.5">
      <ChangeList {changes} label="Since you opened it" empty="It does what it did when you opened it, as far as the walk can tell." />
    </div>
  {/if}
</details>
