<script lang="ts">
  import { TIME_REACHES, timeReachWords } from '@zany/core';
  import ChipMenu from '$lib/shared/ChipMenu.svelte';
  import type { EditorSession } from '$lib/client/session.svelte';

  /** Which moments the next edits are to touch. */
  let { session }: { session: EditorSession } = $props();

  const options = $derived([
    { value: null, label: 'what is usual here', hint: 'this moment where there are keys' },
    ...TIME_REACHES.map((reach) => ({ value: reach, label: timeReachWords[reach] })),
  ]);
</script>

<span class="flex min-w-0 items-center gap-1 [&>.chip]:min-w-0 [&>.chip]:truncate"
  ><span class="soft whitespace-nowrap">edits reach</span>
  <ChipMenu
    name="Edits reach in time"
    label={session.timeReach === null ? 'this moment, or all of time' : timeReachWords[session.timeReach]}
    tone="chip-ghost"
    {options}
    onpick={(reach) => (session.timeReach = reach)}
  /></span
>
