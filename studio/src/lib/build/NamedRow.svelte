<script lang="ts">
  import type { Snippet } from 'svelte';
  import RenameField from '$lib/shared/RenameField.svelte';

  /** A swatch or a type style in its list: pressed to use it, renamed in place, removed. */
  interface Props {
    name: string;
    /** What it is, as `Name of the …`. */
    what: string;
    /** What a press does, for those who cannot see it. */
    does: string;
    isUsed: boolean;
    /** How much it is used. */
    words: string;
    /** What stays when it is removed. */
    stays: string;
    looks?: string;
    onpick: () => void;
    onname: (name: string) => void;
    onremove: () => void;
    lead?: Snippet;
  }
  let { name, what, does, isUsed, words, stays, looks, onpick, onname, onremove, lead }: Props = $props();

  let renaming = $state(false);
</script>

<div class="flex items-center gap-1.5 rounded px-1 {isUsed ? 'bg-[var(--gold-wash)]' : ''}">
  {@render lead?.()}
  {#if renaming}
    <RenameField {name} label="Name of the {what}" class="h-[22px] min-w-0 flex-1 !px-1" {onname} onclose={() => (renaming = false)} />
  {:else}
    <button
      class="min-w-0 flex-1 truncate py-1 text-left"
      style={looks}
      aria-pressed={isUsed}
      aria-label="{does} {name}"
      title="Double-click to rename"
      ondblclick={() => (renaming = true)}
      onclick={onpick}>{name}</button
    >
  {/if}
  <span class="soft text-[12px]">{words}</span>
  <button class="soft px-0.5" aria-label="Rename {name}" title="Rename" onclick={() => (renaming = true)}>✎</button>
  <button class="soft px-0.5" aria-label="Remove {name}" title="Remove; {stays}" onclick={onremove}>✕</button>
</div>
