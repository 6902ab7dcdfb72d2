<script lang="ts">
  import { count } from '@zany/core';
  import { page } from '$app/state';
  import { saveWords } from '$lib/client/save-words';
  import type { EditorSession } from '$lib/client/session.svelte';
  import type { KeptAside } from '$lib/client/store';
  import { download } from './download';
  import Popover from './Popover.svelte';

  /** Where edits stand, in a word or two, with the way out where there is one; and the edits that were set aside. */
  let { session }: { session: EditorSession } = $props();

  const words = $derived(saveWords({ state: session.saveState, waiting: session.waiting, keeps: session.keeps }));
  let listing = $state(false);
  let anchor: HTMLElement | null = $state(null);
  const tones = { good: 'text-[var(--teal)]', wait: 'text-[var(--gold-text)]', bad: 'text-[var(--brick-text)]' } as const;

  /** What is alike is one row: the same thing done, refused for the same reason. */
  const groups = $derived.by(() => {
    const found = new Map<string, KeptAside[]>();
    for (const one of session.aside) {
      const key = `${one.batch.name}|${one.why.sentence}`;
      found.set(key, [...(found.get(key) ?? []), one]);
    }
    return [...found.values()];
  });

  async function retry(group: readonly KeptAside[]) {
    for (const one of group) await session.retryAside(one);
  }

  /** Saves the edits that the server does not have as a file. */
  const saveFile = () => download(new Blob([session.unsaved()], { type: 'application/json' }), `${session.piece.head.name} - changes not saved.json`);
</script>

<span
  class="min-w-[48px] !shrink-[3] truncate whitespace-nowrap {tones[words.tone]}"
  role="status"
  data-save-state={session.saveState}
  title={words.meaning}>{words.text}</span
>
{#if words.action === 'sign in'}
  <a class="chip chip-gold" href="/sign-in?back={encodeURIComponent(page.url.pathname)}">Sign in</a>
{:else if words.action === 'load again'}
  <button class="chip chip-gold" onclick={() => location.reload()}>Load again</button>
{:else if words.action === 'to the Workroom'}
  <a class="chip chip-gold" href="/">Workroom</a>
{:else if words.action === 'save as a file'}
  <button class="chip chip-gold" onclick={saveFile}>Save as a file</button>
{/if}
{#if session.aside.length}
  <button
    bind:this={anchor}
    class="chip chip-brick"
    title="Changes that the server cannot take"
    aria-haspopup="dialog"
    aria-expanded={listing}
    onclick={() => (listing = !listing)}>{session.aside.length} set aside</button
  >
{/if}
{#if listing && anchor && session.aside.length}
  <Popover {anchor} label="Changes set aside" width={380} onclose={() => (listing = false)}>
    <div class="flex flex-col gap-2 p-2">
      <p class="soft">{count(session.aside.length, 'change')} could not be saved. All else is.</p>
      <ul class="scroll flex max-h-[280px] flex-col gap-2">
        {#each groups as group (group[0]!.key)}
          <li class="border-t border-[var(--line)] pt-2">
            <strong>{group[0]!.batch.name}</strong>
            {#if group.length > 1}<span class="soft">{group.length} times</span>{/if}
            <span class="soft block">{group[0]!.why.sentence}</span>
            <span class="mt-1 flex gap-1">
              {#if session.canEdit}<button class="chip" onclick={() => retry(group)}>Try again</button>{/if}
              <button class="chip" onclick={() => session.dropAside(group.map(({ key }) => key))}>Forget</button>
            </span>
          </li>
        {/each}
      </ul>
      <button class="act self-start" onclick={saveFile}>Save them as a file</button>
    </div>
  </Popover>
{/if}
