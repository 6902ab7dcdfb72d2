<script lang="ts">
  import { count } from '@zany/core';
  import { clockOf } from '$lib/shared/moments';
  import RenameField from '$lib/shared/RenameField.svelte';
  import type { PieceEdit, PieceVersion } from '$lib/shared/types';
  import { byDay } from './version-words';
  import type { Versions, Which } from './versions.svelte';

  interface Props {
    versions: Versions;
    before: Which | undefined;
    after: Which;
    mayName: boolean;
    onchoose: (before: Which | undefined, after: Which) => void;
  }
  let { versions, before, after, mayName, onchoose }: Props = $props();

  /** The version whose edits are shown one by one. */
  let unfolded: { readonly revision: number; readonly edits: readonly PieceEdit[] | null } | null = $state.raw(null);
  let naming: number | null = $state(null);
  let onlyNamed = $state(false);

  const shown = $derived((versions.list ?? []).filter(({ name }) => !onlyNamed || name !== null));
  const hasNames = $derived((versions.list ?? []).some(({ name }) => name !== null));

  async function unfold({ revision, edits }: PieceVersion) {
    if (unfolded?.revision === revision) return void (unfolded = null);
    unfolded = { revision, edits: null };
    const found = await versions.editsOf(revision - edits, revision);
    if (unfolded?.revision === revision) unfolded = { revision, edits: found };
  }

  const about = ({ revision, last, by, before: large }: PieceVersion): string =>
    [revision === 0 ? 'as it began' : (last ?? ''), by ?? '', large === null ? '' : `before “${large}”`].filter(Boolean).join(' · ');
</script>

{#snippet pick(revision: number, label: string)}
  <button
    class="chip {before === revision ? 'chip-gold' : 'chip-ghost'}"
    aria-pressed={before === revision}
    aria-label="Compare {label} with {after === null ? 'now' : 'the other'}"
    onclick={() => onchoose(before === revision ? undefined : revision, after)}>compare</button
  >
{/snippet}

{#if versions.list === null}
  <p class="soft">Reading…</p>
{:else}
  {#if hasNames}
    <div class="flex gap-1.5">
      <button class="chip {onlyNamed ? '' : 'chip-gold'}" aria-pressed={!onlyNamed} onclick={() => (onlyNamed = false)}>all</button>
      <button class="chip {onlyNamed ? 'chip-gold' : ''}" aria-pressed={onlyNamed} onclick={() => (onlyNamed = true)}>with a name</button>
    </div>
  {/if}
  {#each byDay(shown) as { day, versions: list } (day)}
    <section aria-label={day}>
      <h3 class="mb-1 text-[14px]">{day}</h3>
      <ul class="flex flex-col border-l-2 border-dashed border-[var(--gold)]">
        {#each list as version (version.revision)}
          {@const label = version.name ?? `${day}, ${clockOf(version.at)}`}
          <li class="py-1.5 pl-3 {before === version.revision ? 'bg-[var(--sheet)]' : ''}">
            <div class="flex items-center gap-2">
              <span class="soft tabular-nums">{clockOf(version.at)}</span>
              {#if naming === version.revision}
                <RenameField
                  class="h-[26px] min-w-0 flex-1"
                  name={version.name ?? ''}
                  label="Name of the version of {day}, {clockOf(version.at)}"
                  onname={(name) => void versions.name(version.revision, name)}
                  onclose={() => (naming = null)}
                />
              {:else}
                <span class="min-w-0 flex-1 truncate"
                  >{#if version.name}<b>{version.name}</b>{/if}</span
                >
              {/if}
              {@render pick(version.revision, label)}
            </div>
            <p class="soft truncate text-[12px]" title={about(version)}>{about(version)}</p>
            <div class="flex gap-3 text-[12px]">
              {#if version.edits > 0}<button
                  class="soft underline decoration-dotted"
                  aria-expanded={unfolded?.revision === version.revision}
                  onclick={() => unfold(version)}>{count(version.edits, 'edit')}</button
                >{/if}
              {#if mayName}<button class="soft underline decoration-dotted" aria-label="Name {label}" onclick={() => (naming = version.revision)}
                  >{version.name === null ? 'give it a name' : 'rename'}</button
                >{/if}
              {#if mayName && version.name !== null}<button
                  class="soft underline decoration-dotted"
                  aria-label="Take the name from {label}"
                  onclick={() => void versions.name(version.revision, null)}>take the name away</button
                >{/if}
            </div>
            {#if unfolded?.revision === version.revision}
              <ol class="scroll mt-1 max-h-[240px]" aria-label="Edits of {label}">
                {#each unfolded.edits ?? [] as edit (edit.revision)}
                  <li class="flex items-center gap-2 text-[12.5px]">
                    <span class="soft tabular-nums">{clockOf(edit.at)}</span>
                    <span class="min-w-0 flex-1 truncate" title="{edit.name} · {edit.by ?? ''}">{edit.name}</span>
                    {@render pick(edit.revision, `after ${edit.name}`)}
                  </li>
                {:else}<li class="soft">Reading…</li>{/each}
              </ol>
            {/if}
          </li>
        {/each}
      </ul>
    </section>
  {/each}
  {#if !versions.isAll}<p class="soft">Older ones are kept too; the latest {versions.list.length} are listed.</p>{/if}
{/if}
