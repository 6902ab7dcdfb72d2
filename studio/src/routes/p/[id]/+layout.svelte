<script lang="ts">
  import { goto } from '$app/navigation';
  import { page } from '$app/state';
  import { forgetKeys, giveKeys } from '$lib/client/early-keys';
  import { EditorSession } from '$lib/client/session.svelte';
  import CommandFinder from '$lib/shared/CommandFinder.svelte';
  import { commands, matches, type CommandContext, type Desk } from '$lib/shared/commands';
  import { beginTour } from '$lib/tour/begin';
  import { isForTour } from '$lib/tour/steps';
  import Tour from '$lib/tour/Tour.svelte';
  import { setDesk } from '$lib/shared/desk.svelte';
  import Header from '$lib/shared/Header.svelte';
  import Help from '$lib/help/Help.svelte';
  import { isByPointer, isTyping } from '$lib/shared/focus';
  import LayerMenu from '$lib/shared/LayerMenu.svelte';
  import Notices from '$lib/shared/Notices.svelte';
  import { onDestroy, tick } from 'svelte';
  import type { LayoutData } from './$types';
  import type { Snippet } from 'svelte';

  let { data, children }: { data: LayoutData; children: Snippet } = $props();

  const place = setDesk();
  let finding = $state(false);
  let listing = $state(false);
  let touring = $state(page.url.searchParams.has('tour'));
  let opened: EditorSession | null = null;

  // svelte-ignore state_referenced_locally
  const opening = EditorSession.open(data.id, data.person, data.role).then((session) => (place.session = opened = session));

  /** Before it hears them, keys are kept for the desk. */
  let hears = false;
  void opening.then(async () => {
    await tick();
    hears = true;
    giveKeys();
  }, forgetKeys);

  onDestroy(() => opened?.close());

  /** A title that is said anew with every edit costs the browser, though it says the same. */
  const title = $derived(place.session?.piece.head.name ?? 'Opening');

  const desk = $derived((page.url.pathname.split('/')[3] ?? 'build') as Desk);

  const contextOf = (session: EditorSession): CommandContext => ({
    session,
    desk,
    hands: place.hands,
    go: (to) => void goto(`/p/${data.id}/${to}`),
    showKeys: () => (listing = true),
    showFinder: () => (finding = true),
    takeTour: () => void takeTour(session),
  });

  $effect(() => place.session?.presences.at(desk, place.session.sceneId, place.session.selection));

  async function takeTour(session: EditorSession) {
    const problem = await beginTour();
    if (problem) session.notify(problem);
  }

  /** Comments stand where what they are about is made. */
  async function showComments(session: EditorSession) {
    if (desk !== 'build') await goto(`/p/${data.id}/build`);
    session.panel = 'comments';
  }

  /** Enter presses a button that keys have come to; one that was clicked keeps the focus only by the way. */
  const isPressing = (event: KeyboardEvent) =>
    event.key === 'Enter' &&
    event.target instanceof HTMLElement &&
    event.target.closest('button, a, [role=option]') !== null &&
    !event.target.closest('[data-pick]') &&
    (!isByPointer() || event.target.closest('[role=dialog], [role=menu]') !== null);

  /** While a piece is tried, plain keys are for it. */
  const isForPiece = (event: KeyboardEvent, session: EditorSession) => session.trying && !event.ctrlKey && !event.metaKey && event.key !== 'Escape';

  function key(event: KeyboardEvent) {
    const { session } = place;
    if (!session || !hears || event.defaultPrevented || finding || listing) return;
    if (event.key === 'Escape' && session.trying) return void (session.trying = false);
    if (isTyping(event.target) && !(event.ctrlKey && event.key.toLowerCase() === 'k')) return;
    if (isPressing(event)) return;
    if (isForPiece(event, session)) return;
    const context = contextOf(session);
    for (const command of commands)
      if (command.keys?.some((keys) => matches(event, keys)) && (command.when?.(context) ?? true)) {
        event.preventDefault();
        command.run(context);
        return;
      }
    if (event.key === 'Escape') {
      if (session.selection.length === 0 && desk === 'build') session.leaveScene();
      context.hands.pickTool?.('select');
      session.select([]);
    }
  }
</script>

<svelte:head><title>{title} · Zany Thread</title></svelte:head>
<svelte:window onkeydown={key} />

{#await opening}
  <main class="grid h-screen place-items-center linen-ground"><p class="soft">Opening the piece…</p></main>
{:then session}
  <div class="flex h-screen flex-col">
    <Header {session} {desk} onfinder={() => (finding = true)} onkeys={() => (listing = true)} oncomments={() => showComments(session)} />
    <div class="min-h-0 flex-1">{@render children()}</div>
  </div>
  {#if finding}<CommandFinder context={contextOf(session)} onclose={() => (finding = false)} />{/if}
  {#if place.menuAt}<LayerMenu context={contextOf(session)} at={place.menuAt} onclose={() => (place.menuAt = null)} />{/if}
  {#if touring && isForTour(session.program)}<Tour context={contextOf(session)} onleave={() => (touring = false)} />{/if}
  {#if listing}<Help onclose={() => (listing = false)} />{/if}
  <Notices {session} />
{:catch problem}
  <main class="grid h-screen place-items-center linen-ground">
    <div class="text-center">
      <h1 class="mb-2 text-xl">The piece could not be opened</h1>
      <p class="soft mb-4">{(problem as Error).message} What you changed is kept in this browser.</p>
      <button class="act act-go" onclick={() => location.reload()}>Try again</button>
    </div>
  </main>
{/await}
