<script lang="ts">
  import {
    addTypeStyle,
    backToStyle,
    count,
    differsFromStyle,
    removeTypeStyle,
    renameTypeStyle,
    setApart,
    setInStyle,
    takeIntoStyle,
    typesOf,
    typeStylesOf,
    typeStyleUses,
  } from '@zany/core';
  import type { Letters, Operation } from '@zany/core';
  import { newId } from '$lib/client/ids';
  import type { EditorSession } from '$lib/client/session.svelte';
  import { fieldKey } from '$lib/shared/focus';
  import Popover from '$lib/shared/Popover.svelte';
  import NamedRow from './NamedRow.svelte';

  /** The type style that the selected words are set in: another one, a new one, or this one changed for all. */
  let { session, letters }: { session: EditorSession; letters: Letters } = $props();

  let open = $state(false);
  let button: HTMLButtonElement | undefined = $state();

  const piece = $derived(session.plain.piece);
  const styles = $derived(typeStylesOf(piece.head));
  const own = $derived(letters.style === undefined ? undefined : styles.find(({ id }) => id === letters.style));
  const differs = $derived(differsFromStyle(piece.head, letters));
  const types = $derived(open ? typesOf(piece) : []);
  const followers = $derived(open ? typeStyleUses(piece) : new Map<string, number>());
  const words: Partial<Record<keyof Letters, string>> = { family: 'typeface', align: 'side', place: 'height', leading: 'line height' };

  function keep(event: Event & { currentTarget: HTMLInputElement }) {
    const name = event.currentTarget.value.trim();
    event.currentTarget.value = '';
    const [first] = session.selection;
    const set = first === undefined ? undefined : piece.layers.get(first)?.letters;
    if (!name || first === undefined) return;
    session.edit(`Name the type ${name}`, addTypeStyle(piece, name, set ?? {}, newId).operations, 'plain');
  }

  const setType = (wanted: Letters) =>
    session.edit(
      'Set the type',
      session.selection.flatMap((id): Operation[] =>
        session.piece.layers.get(id)?.text === undefined ? [] : [{ op: 'set', table: 'layers', id, path: ['letters'], value: wanted }]
      )
    );
  const looksLike = (set: Letters) => `font-family: ${set.family ?? 'inherit'}; font-weight: ${set.weight ?? 400}`;
</script>

<button
  bind:this={button}
  class="max-w-[110px] truncate rounded px-1 hover:bg-[var(--chip)]"
  aria-label="Type style: {own?.name ?? 'none'}{differs.length ? ', changed' : ''}"
  aria-expanded={open}
  title={differs.length ? `${own?.name}, but for ${differs.map((key) => words[key] ?? key).join(', ')}` : 'Type styles'}
  onclick={() => (open = !open)}>{own ? own.name : 'type'}{differs.length ? ' ≠' : ''}</button
>
{#if open && button}
  <Popover anchor={button} label="Type styles" onclose={() => (open = false)} width={260}>
    <div class="flex flex-col gap-2 p-1" data-bar>
      {#if own && differs.length}
        <div class="flex flex-wrap items-center gap-1">
          <span class="soft">differs by {differs.map((key) => words[key] ?? key).join(', ')}:</span>
          <button
            class="chip chip-gold"
            onclick={() => session.edit(`Change ${own.name}`, takeIntoStyle(piece, session.selection[0]!), 'plain')}
            title="All words in this style become like these">change {own.name}</button
          >
          <button class="chip" onclick={() => session.edit(`Back to ${own.name}`, backToStyle(session.settled.piece, session.selection))}
            >put back</button
          >
        </div>
      {/if}
      {#if styles.length}
        <div role="group" aria-label="Type styles of this piece">
          {#each styles as style (style.id)}
            <NamedRow
              name={style.name}
              what="type style"
              does="Set in"
              isUsed={own?.id === style.id}
              words="{style.letters.size ?? 16} px · {count(followers.get(style.id) ?? 0, 'text')}"
              stays="words set in it stay as they are"
              looks={looksLike(style.letters)}
              onpick={() => session.edit(`Set in ${style.name}`, setInStyle(session.settled.piece, session.selection, style.id))}
              onname={(name) => session.edit(`Rename ${style.name}`, renameTypeStyle(piece, style.id, name), 'plain')}
              onremove={() => session.edit(`Remove ${style.name}`, removeTypeStyle(piece, style.id), 'plain')}
            />
          {/each}
        </div>
      {:else}<p class="soft">A way of setting words with a name is a type style: change it once, and all words in it follow.</p>{/if}
      {#if types.length > 1}
        <div class="flex flex-wrap items-center gap-1" role="group" aria-label="Other type of this piece">
          {#each types as type (type.words)}
            <button class="chip max-w-[118px]" title={type.words} aria-label="Set as {type.from}" onclick={() => setType(type.letters)}
              ><span class="truncate" style={looksLike(type.letters)}>{type.size} {type.from}</span></button
            >
          {/each}
        </div>
      {/if}
      {#if !own}
        <input
          class="field h-[24px] !px-1.5"
          placeholder="name how this is set"
          maxlength="110"
          aria-label="Name this type"
          onkeydown={fieldKey}
          onchange={keep}
        />
      {:else}
        <button class="chip chip-ghost self-start" onclick={() => session.edit('Set apart', setApart(session.settled.piece, session.selection))}
          >a type of its own</button
        >
      {/if}
    </div>
  </Popover>
{/if}
