<script lang="ts">
  import { goto } from '$app/navigation';
  import { page } from '$app/state';
  import { onMount, untrack } from 'svelte';
  import { useSession } from '$lib/shared/desk.svelte';
  import { roleMay } from '$lib/shared/rights';
  import Compared from './Compared.svelte';
  import VersionList from './VersionList.svelte';
  import { Versions, type Which } from './versions.svelte';

  /** Versions on the left, and what differs between two of them. */
  const session = useSession();
  const versions = new Versions(session);
  const mayName = roleMay(session.role, 'name versions');

  const whichIn = (text: string | null): Which | undefined =>
    text === 'now' ? null : text !== null && /^\d+$/.test(text) ? Number(text) : undefined;
  const before = $derived(whichIn(page.url.searchParams.get('from')));
  const after = $derived(whichIn(page.url.searchParams.get('to')) ?? null);

  onMount(() => {
    void versions.read();
    return () => versions.leave();
  });
  $effect(() => {
    const [from, to] = [before, after];
    untrack(() => (from === undefined ? versions.leave() : void versions.compare(from, to)));
  });

  const word = (which: Which) => (which === null ? 'now' : String(which));
  const choose = (from: Which | undefined, to: Which) =>
    goto(from === undefined ? '?page=versions' : `?page=versions&from=${word(from)}&to=${word(to)}`, {
      keepFocus: true,
      noScroll: true,
      replaceState: true,
    });

  let name = $state('');
  async function keep() {
    if (!(await session.whenSaved()))
      return session.notify('Some changes are not saved yet, so this version cannot be named. Try again when the server is reached.');
    if (await versions.name(session.savedRevision, name)) name = '';
  }
</script>

<div class="grid grid-cols-[300px_minmax(0,1fr)] gap-8">
  <div class="flex min-w-0 flex-col gap-4">
    {#if mayName}
      <form
        class="flex items-center gap-2"
        onsubmit={(event) => {
          event.preventDefault();
          void keep();
        }}
      >
        <input
          class="field h-9 min-w-0 flex-1"
          placeholder="Call it as it is now…"
          aria-label="Name for the piece as it is now"
          maxlength="120"
          bind:value={name}
        />
        <button class="act act-go h-9" disabled={versions.isBusy || name.trim() === ''}>Keep</button>
      </form>
    {/if}
    <VersionList {versions} {before} {after} {mayName} onchoose={choose} />
  </div>
  <div class="min-w-0">
    {#if before === undefined}
      <p class="soft max-w-[52ch] text-[15px]">
        Choose a version to see what is otherwise now: how frames look, which threads say something else, and what the piece does. Every edit is kept;
        nothing is thrown away by restoring.
      </p>
    {:else if versions.comparing}
      {#key versions.comparing}
        <Compared {versions} comparing={versions.comparing} {before} {after} onchoose={choose} />
      {/key}
    {:else if versions.isLoading}
      <p class="soft">Fetching the versions…</p>
    {/if}
  </div>
</div>
