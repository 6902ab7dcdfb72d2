<script lang="ts">
  import { commands, keyLabel, otherKeys } from '$lib/shared/commands';
  import { takeFocus } from '$lib/shared/focus';
  import Markdown from '$lib/shared/Markdown.svelte';
  import { foundIn, hasAll, wordsOf } from './guide';

  /** The guide and the keys, to be looked through together. */
  let { onclose }: { onclose: () => void } = $props();

  let query = $state('');
  let section: string | null = $state(null);

  const words = $derived(wordsOf(query));
  const keyed = commands.filter((command) => command.keys);
  const shownKeys = $derived(keyed.filter(({ label, group }) => hasAll(`${label} ${group}`, words)));
  const others = $derived(otherKeys.filter(({ label }) => hasAll(label, words)));
  const groups = $derived([...new Set(shownKeys.map(({ group }) => group))]);

  /** More than these nobody reads: another word finds fewer. */
  const MOST = 30;
</script>

<svelte:window
  onkeydowncapture={(event) => {
    if (event.key !== 'Escape' && !(event.key === '?' && query === '')) return;
    event.preventDefault();
    event.stopPropagation();
    onclose();
  }}
/>
<div
  class="fixed inset-0 z-50 grid place-items-center bg-black/20"
  role="presentation"
  onpointerdown={(event) => event.target === event.currentTarget && onclose()}
>
  <div class="pop flex h-[86vh] w-[900px] max-w-[94vw] flex-col p-5" role="dialog" aria-label="Guide and keys">
    <div class="mb-3 flex items-center gap-3">
      <h2 class="text-[18px]">Guide and keys</h2>
      <input
        class="field h-8 flex-1"
        type="search"
        placeholder="what are you looking for? carousel, hover, back, csv…"
        aria-label="Find in the guide and the keys"
        bind:value={query}
        oninput={() => (section = null)}
        use:takeFocus
      />
      <button class="act act-plain" onclick={onclose} aria-label="Close">✕</button>
    </div>
    <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
    <div class="scroll min-h-0 flex-1" tabindex="0" role="region" aria-label="What was found">
      {#await import('./pages') then { guideEntries }}
        {@const found = section === null ? foundIn(guideEntries, words) : guideEntries.filter((entry) => entry.section === section)}
        {#if query === ''}
          <div class="mb-4 flex flex-wrap gap-1.5" role="group" aria-label="Chapters">
            {#each [...new Set(guideEntries.map((entry) => entry.section))] as name (name)}
              <button class="chip" aria-pressed={section === name} onclick={() => (section = section === name ? null : name)}>{name}</button>
            {/each}
          </div>
        {/if}
        {#each found.slice(0, MOST) as entry, i (i)}
          <section class="mb-3 max-w-[78ch] text-[14px]">
            {#if entry.section !== found[i - 1]?.section}<h3 class="mb-1 text-[13px] text-[var(--gold-text)]">{entry.section}</h3>{/if}
            <Markdown text={entry.text} />
          </section>
        {/each}
        {#if found.length > MOST}<p class="soft mb-4">…and {found.length - MOST} more: one word more finds fewer.</p>{/if}
        {#if words.length > 0 && found.length === 0 && shownKeys.length + others.length === 0}
          <p class="soft">Nothing is said of that. Another word may find it; <kbd>Ctrl K</kbd> finds commands, frames and layers.</p>
        {/if}
      {/await}
      {#if section === null}
        <div class="columns-3 gap-6 max-lg:columns-2">
          {#each groups as group (group)}
            <section class="mb-4 break-inside-avoid">
              <h3 class="mb-1 text-[13px] text-[var(--gold-text)]">{group}</h3>
              {#each shownKeys.filter((command) => command.group === group) as command (command.id)}
                <p class="flex items-baseline gap-2 py-0.5"><span class="flex-1">{command.label}</span><kbd>{keyLabel(command.keys![0]!)}</kbd></p>
              {/each}
            </section>
          {/each}
          {#if others.length}
            <section class="break-inside-avoid">
              <h3 class="mb-1 text-[13px] text-[var(--gold-text)]">Also</h3>
              {#each others as other (other.keys)}<p class="py-0.5"><kbd>{other.keys}</kbd> <span class="soft">{other.label}</span></p>{/each}
            </section>
          {/if}
        </div>
      {/if}
    </div>
  </div>
</div>
