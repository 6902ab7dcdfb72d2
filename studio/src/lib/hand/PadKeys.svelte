<script lang="ts">
  import { page } from '$app/state';
  import { useSession } from '$lib/shared/desk.svelte';
  import type { PadKey } from '$lib/shared/types';
  import { Asked } from './asking.svelte';

  const session = useSession();
  const keys = new Asked<{ keys: PadKey[] }>(session, 'pad-keys');
  let name = $state('');
  let made: string | null = $state.raw(null);

  const command = $derived(
    made &&
      `curl -X POST ${page.url.origin}/api/pieces/${session.id}/pad -H 'Authorization: Bearer ${made}' -H 'Content-Type: application/json' -d '{"button":2}'`
  );

  async function make(event: SubmitEvent) {
    event.preventDefault();
    const answer = await keys.change<{ key: string }>('POST', '', { name: name.trim() });
    if (answer) [made, name] = [answer.key, ''];
  }
</script>

<section aria-label="A pad of your own" class="flex flex-col gap-3">
  <h3 class="text-[17px]">A pad of your own</h3>
  <p class="soft">A box of buttons presses the pad wherever this piece is tried, by a key that can do nothing else.</p>
  <form class="flex items-end gap-3" onsubmit={make}>
    <label class="flex flex-col gap-1"
      ><span class="soft">Name of the box</span><input
        class="field h-8"
        required
        maxlength="80"
        bind:value={name}
        placeholder="Box at the pier"
      /></label
    >
    <button class="act h-8" disabled={keys.isBusy}>Make a key</button>
  </form>
  {#if command}
    <div role="status">
      <p>It is shown only now. A press on button 2:</p>
      <pre class="mt-1 overflow-auto rounded-lg bg-[var(--bar)] px-4 py-3 text-[12.5px] text-[var(--bar-ink)]"><code>{command}</code></pre>
    </div>
  {/if}
  {#each keys.value?.keys ?? [] as one (one.id)}
    <p class="flex items-center gap-3">
      <span class="flex-1">{one.name}</span><button
        class="chip"
        onclick={() => keys.change('DELETE', `/${one.id}`)}
        aria-label="End the key {one.name}">end it</button
      >
    </p>
  {/each}
</section>
