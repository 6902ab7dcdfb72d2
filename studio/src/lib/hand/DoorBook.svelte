<script lang="ts">
  import { useSession } from '$lib/shared/desk.svelte';
  import { momentOf } from '$lib/shared/moments';
  import type { DoorEntry } from '$lib/shared/types';
  import { Asked } from './asking.svelte';

  /** What was changed by doors: when it is another, the book has more in it. */
  let { after }: { after: unknown } = $props();

  const book = new Asked<{ entries: DoorEntry[] }>(useSession(), 'door-book');
  let isFirst = true;
  $effect(() => {
    void after;
    if (!isFirst) void book.read();
    isFirst = false;
  });
</script>

<details>
  <summary class="cursor-pointer text-[15px]">Who was let in and out</summary>
  <ul class="mt-2 flex flex-col gap-1">
    {#each book.value?.entries ?? [] as { at, by, sentence }, i (i)}
      <li><span class="soft inline-block w-[120px] tabular-nums">{momentOf(at)}</span> {by} {sentence}</li>
    {:else}<li class="soft">Nobody yet but its owner.</li>{/each}
  </ul>
</details>
