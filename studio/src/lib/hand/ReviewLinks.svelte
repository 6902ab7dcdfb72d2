<script lang="ts">
  import { page } from '$app/state';
  import { count } from '@zany/core';
  import { useSession } from '$lib/shared/desk.svelte';
  import { roleMay, type LinkMay } from '$lib/shared/rights';
  import { dayOf } from '$lib/shared/moments';
  import type { PieceVersion, ReviewLink } from '$lib/shared/types';
  import { Asked } from './asking.svelte';
  import CopyField from './CopyField.svelte';
  import LinkForm from './LinkForm.svelte';
  import QrCode from './QrCode.svelte';
  import Results from './Results.svelte';
  import { versionName } from './versions/version-words';

  const session = useSession();
  const mayMake = roleMay(session.role, 'make links');
  const links = mayMake ? new Asked<{ links: ReviewLink[] }>(session, 'links') : null;

  const versions = mayMake ? new Asked<{ versions: PieceVersion[] }>(session, 'versions') : null;
  const named = $derived((versions?.value?.versions ?? []).filter(({ name }) => name !== null));

  let isMaking = $state(false);
  /** The link that is changed. */
  let changing: string | null = $state(null);
  /** The link that is shown whole. */
  let shown: string | null = $state(null);
  /** The link whose results are looked at. */
  const results = $derived(page.url.searchParams.get('results'));
  const open = $derived(links?.value?.links.find(({ id }) => id === results) ?? null);

  const mayWords: Record<LinkMay, string> = { look: 'look', walk: 'walk', comment: 'walk and comment' };
  const addressOf = (link: ReviewLink) => `${page.url.origin}/r/${link.token}`;
  const isOver = (link: ReviewLink) => link.withdrawn || (link.expires !== null && new Date(link.expires) <= new Date());
  const bundles = $derived(session.piece.head.bundles ?? {});

  function about(link: ReviewLink): string {
    const parts = [
      mayWords[link.may],
      link.bundle === null ? '' : `frames of ${bundles[link.bundle]?.name ?? 'a bundle that is gone'}`,
      link.start === null ? '' : `from ${session.piece.scenes.get(link.start)?.name ?? 'a frame that is gone'} on`,
      link.revision === null ? '' : `the version ${versionName(link.revision, versions?.value?.versions ?? null)}`,
      link.tasks.length ? count(link.tasks.length, 'task') : '',
      link.hasPassword ? 'with a password' : '',
      link.withdrawn ? 'withdrawn' : link.expires ? `${isOver(link) ? 'ended' : 'until'} ${dayOf(link.expires)}` : '',
    ];
    return parts.filter(Boolean).join(' · ');
  }

  async function make(body: unknown) {
    const answer = await links!.change<{ link: ReviewLink }>('POST', '', body);
    if (!answer) return;
    isMaking = false;
    shown = answer.link.id;
  }

  async function change(link: ReviewLink, body: unknown) {
    if (await links!.change('PATCH', `/${link.id}`, body)) changing = null;
  }
</script>

{#if !links}
  <p class="soft">Review links are made by those who may change the piece.</p>
{:else if open}
  <Results link={open} />
{:else}
  <div class="flex flex-col gap-5">
    {#if isMaking}
      <LinkForm isBusy={links.isBusy} {named} onmake={make} onclose={() => (isMaking = false)} />
    {:else}
      <div class="flex items-center gap-4">
        <button class="act act-go h-9" onclick={() => (isMaking = true)} disabled={session.program.frames.length === 0}>New review link</button>
        <p class="soft flex-1">Others look and walk by it, on their phones too, without an account.</p>
      </div>
    {/if}
    <ul class="flex flex-col">
      {#each links.value?.links ?? [] as link (link.id)}
        <li class="flex flex-col gap-2 border-t border-dashed border-[var(--gold)] py-3" class:opacity-60={isOver(link)}>
          <div class="flex flex-wrap items-center gap-3">
            <span class="min-w-0 flex-1"><b>{link.name}</b> <span class="soft">{about(link)}</span></span>
            {#if link.holders}<a class="chip chip-gold" href="?page=review&results={link.id}"
                >{count(link.holders, 'person', 'people')}: what they did</a
              >{:else}<span class="soft">nobody yet</span>{/if}
            {#if !isOver(link)}
              <button class="chip" aria-expanded={shown === link.id} onclick={() => (shown = shown === link.id ? null : link.id)}>address</button>
              <button class="chip" aria-expanded={changing === link.id} onclick={() => (changing = changing === link.id ? null : link.id)}
                >change</button
              >
              <button class="chip" onclick={() => links.change('DELETE', `/${link.id}`)} aria-label="Withdraw {link.name}">withdraw</button>
            {/if}
          </div>
          {#if changing === link.id}
            <LinkForm isBusy={links.isBusy} {named} {link} onmake={(body) => change(link, body)} onclose={() => (changing = null)} />
          {/if}
          {#if shown === link.id && !isOver(link)}
            <div class="flex items-center gap-4">
              <QrCode text={addressOf(link)} />
              <div class="flex min-w-0 flex-1 flex-col gap-2">
                <CopyField value={addressOf(link)} label="Address of {link.name}" />
                <p class="soft">Phones come to it by the picture. It ends at once when you withdraw it; what was done by it stays.</p>
                <a class="soft self-start underline" href="/r/{link.token}" target="_blank" rel="noopener">Open it yourself</a>
              </div>
            </div>
          {/if}
        </li>
      {/each}
    </ul>
  </div>
{/if}
