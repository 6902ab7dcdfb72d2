<script lang="ts">
  import { cutText, MOST_NAME } from '@zany/core';
  import Popover from '$lib/shared/Popover.svelte';

  /** A chip that picks one of some words, or a new one that is typed. */
  interface Props {
    label: string;
    name: string;
    words: readonly { readonly word: string; readonly mark?: string; readonly color?: string }[];
    /** What taking it away is called; it cannot be taken away without. */
    none?: string;
    tone?: string;
    fresh: string;
    onpick: (word: string | null) => void;
  }
  let { label, name, words, none, tone = '', fresh, onpick }: Props = $props();

  let open = $state(false);
  let chip: HTMLButtonElement | undefined = $state();
  let typed = $state('');

  function pick(word: string | null) {
    open = false;
    typed = '';
    chip?.focus();
    onpick(word);
  }
</script>

<button bind:this={chip} class="chip {tone}" aria-expanded={open} aria-label="{name}: {label}" onclick={() => (open = !open)}>{label}</button>
{#if open && chip}
  <Popover anchor={chip} label={name} onclose={() => (open = false)} width={200}>
    {#each words as { word, mark, color } (word)}
      <button class="menu-row" onclick={() => pick(word)}
        >{#if mark}<span class="w-4 text-center font-bold" style:color>{mark}</span>{/if}<span class="truncate">{word}</span></button
      >
    {/each}
    {#if none}<button class="menu-row soft" onclick={() => pick(null)}>{none}</button>{/if}
    <form
      class="mt-1 border-t border-dashed border-[var(--line)] pt-1"
      onsubmit={(event) => {
        event.preventDefault();
        if (typed.trim()) pick(cutText(typed.trim(), MOST_NAME));
      }}
    >
      <input class="field w-full" bind:value={typed} placeholder={fresh} aria-label={fresh} maxlength="120" />
    </form>
  </Popover>
{/if}
