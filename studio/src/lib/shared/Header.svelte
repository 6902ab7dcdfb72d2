<script lang="ts">
  import { count } from '@zany/core';
  import type { Other } from '$lib/client/presence.svelte';
  import type { EditorSession } from '$lib/client/session.svelte';
  import { desks, type Desk } from './commands';
  import { getDesk } from './desk.svelte';
  import Logo from './Logo.svelte';
  import { pillWords } from './pill-words';
  import RenameField from './RenameField.svelte';
  import SaveMark from './SaveMark.svelte';
  import ThemeButton from './ThemeButton.svelte';

  interface Props {
    session: EditorSession;
    desk: Desk;
    onfinder: () => void;
    onkeys: () => void;
    oncomments: () => void;
  }
  let { session, desk, onfinder, onkeys, oncomments }: Props = $props();

  const place = getDesk();
  let renaming = $state(false);
  const pill = $derived(
    pillWords(session.audit && { findings: session.findings, cut: session.audit.cut, isCurrent: session.auditIsCurrent && session.auditIsDone })
  );
  const pillTones = {
    walking: '',
    clean: 'chip-teal',
    part: 'chip-part',
    look: 'chip-gold',
    must: '!border-transparent !bg-[var(--brick-wash)] !text-[var(--brick-text)]',
  } as const;
  const whereWords = (other: Other) =>
    [desks.find((one) => one.id === other.desk)?.label, session.piece.scenes.get(other.scene ?? '')?.name].filter(Boolean).join(', ');
  const initials = $derived(
    session.person.name
      .split(/\s+/)
      .map((word) => word[0])
      .slice(0, 2)
      .join('')
      .toUpperCase()
  );
</script>

<header class="flex h-[44px] shrink-0 items-center gap-4 border-b border-[var(--line)] bg-[var(--sheet)] px-3.5">
  <!-- What the piece is called gives way before what was found in it. -->
  <div class="flex min-w-[110px] flex-[0_9999_auto] items-center gap-3">
    <a href="/" aria-label="To the Workroom" title="To the Workroom"><Logo /></a>
    {#if renaming}
      <RenameField
        name={session.piece.head.name}
        label="Name of the piece"
        class="h-7 w-56"
        onname={(name) => session.edit('Rename the piece', [{ op: 'set', table: 'piece', id: session.id, path: ['name'], value: name }])}
        onclose={() => (renaming = false)}
      />
    {:else}
      <h1 class="min-w-0 max-w-[185px] text-[15px] max-xl:max-w-[135px]">
        <button
          class="block max-w-full truncate"
          ondblclick={() => session.canEdit && (renaming = true)}
          title="{session.piece.head.name} · double-click to rename">{session.piece.head.name}</button
        >
      </h1>
    {/if}
  </div>
  <nav class="flex shrink-0 gap-1" aria-label="Desks">
    {#each desks as item (item.id)}
      <a
        href="/p/{session.id}/{item.id}"
        class="relative px-2 py-2 text-[15px] {desk === item.id ? 'font-bold' : 'soft hover:text-[var(--ink)]'}"
        style="font-family: var(--heading)"
        aria-current={desk === item.id ? 'page' : undefined}
        title={item.meaning}
      >
        {item.label}
        {#if desk === item.id}<span class="absolute inset-x-2 bottom-0.5 border-b-[3px] border-dashed border-[var(--gold)]"></span>{/if}
      </a>
    {/each}
  </nav>
  {#if place.tools}<div class="flex min-w-0 flex-[1_1_auto] items-center justify-center gap-1 whitespace-nowrap" role="group" aria-label="Tools">
      {@render place.tools()}
    </div>{:else}<span class="flex-1"></span>{/if}
  <div class="flex min-w-0 flex-[0_1_auto] items-center justify-end gap-2.5 whitespace-nowrap max-xl:gap-1.5 [&>*]:shrink-0">
    <a
      href="/p/{session.id}/walk"
      class="chip block h-[24px] min-w-[64px] !shrink truncate rounded-full !px-2.5 font-semibold leading-[22px] {pillTones[pill.tone]}"
      data-loose-ends={session.auditIsCurrent ? session.findings.length : ''}
      data-walked-whole={session.isWhole}
      aria-busy={!session.auditIsDone}
      title={pill.meaning}
    >
      {#if pill.tone === 'part'}<span aria-hidden="true">◐</span>{/if}
      {#if pill.brief}<span class="max-[1400px]:hidden">{pill.text}</span><span class="min-[1400.01px]:hidden">{pill.brief}</span
        >{:else}{pill.text}{/if}
    </a>
    {#if session.comments.left.length}
      <button
        class="chip h-[24px] rounded-full {session.comments.unread.length ? 'chip-brick' : ''}"
        title="{count(session.comments.left.length, 'comment')}{session.comments.unread.length
          ? `, ${session.comments.unread.length} not seen yet`
          : ''} (U)"
        aria-label="Comments: {session.comments.left.length} open, {session.comments.unread.length} not seen yet"
        onclick={() => oncomments()}>{session.comments.left.length} ❞</button
      >
    {/if}
    <span class="flex">
      <button
        class="px-1.5 text-[16px]"
        disabled={session.undoNames.length === 0}
        aria-label="Undo"
        title="Undo {session.undoNames.at(-1) ?? ''}"
        onclick={() => session.undo()}>↶</button
      >
      <button
        class="px-1.5 text-[16px]"
        disabled={session.redoNames.length === 0}
        aria-label="Do again"
        title="Do again {session.redoNames.at(-1) ?? ''}"
        onclick={() => session.redo()}>↷</button
      >
    </span>
    <SaveMark {session} />
    <button class="act act-plain !px-1.5" onclick={onfinder} aria-label="Find a command" title="Find a command"><kbd>Ctrl K</kbd></button>
    <button class="act act-plain !px-1" onclick={onkeys} aria-label="List of keys" title="List of keys"><kbd>?</kbd></button>
    <ThemeButton />
    {#each session.presences.others.slice(0, 5) as other (other.client)}
      <button
        class="-mx-1 grid h-7 w-7 place-items-center rounded-full text-[11px] font-bold text-white"
        style:background={other.color}
        aria-label="{other.name} is here"
        title="{other.name} · {whereWords(other)}; press to go there"
        onclick={() => other.scene && session.openScene(other.scene)}>{other.initials}</button
      >
    {/each}
    {#if session.presences.others.length > 5}<span class="soft">+{session.presences.others.length - 5}</span>{/if}
    <a
      class="grid h-7 w-7 place-items-center rounded-full bg-[var(--teal-wash)] text-[11px] font-bold"
      href="/account"
      title="{session.person.name} · your account"
      aria-label="Your account, {session.person.name}">{initials}</a
    >
  </div>
</header>
