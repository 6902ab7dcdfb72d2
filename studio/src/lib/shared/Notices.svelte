<script lang="ts">
  import type { EditorSession } from '$lib/client/session.svelte';
  import { isAskedBelow } from './asks-below.svelte';

  let { session }: { session: Pick<EditorSession, 'notices' | 'dismiss'> } = $props();
</script>

<!-- What asks something at the bottom stays in sight. -->
<div
  class="notices fixed left-1/2 z-50 flex -translate-x-1/2 flex-col items-center gap-2 {isAskedBelow() ? 'bottom-[92px]' : 'bottom-4'}"
  role="status"
  aria-live="polite"
>
  {#each session.notices as notice (notice.id)}
    <div class="flex max-w-[560px] items-center gap-3 rounded-lg bg-[var(--bar)] px-4 py-2 text-[var(--bar-ink)] shadow-xl">
      <span>{notice.text}</span>
      {#if notice.action}
        <button class="font-semibold text-[var(--gold)]" onclick={() => (notice.action?.run(), session.dismiss(notice.id))}
          >{notice.action.label}</button
        >
      {/if}
      <button class="opacity-60" aria-label="Dismiss" onclick={() => session.dismiss(notice.id)}>✕</button>
    </div>
  {/each}
</div>
