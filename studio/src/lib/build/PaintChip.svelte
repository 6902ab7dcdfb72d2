<script lang="ts">
  import { colorOf, swatchIn } from '@zany/core';
  import type { Snippet } from 'svelte';
  import Popover from '$lib/shared/Popover.svelte';
  import type { EditorSession } from '$lib/client/session.svelte';
  import SwatchList from './SwatchList.svelte';

  /** What something is painted with: a press on the colour picks any other, one beside it a swatch. */
  interface Props {
    session: EditorSession;
    label: string;
    paint: string | undefined;
    /** Several things are painted differently; the colour is that of the first. */
    mixed?: boolean;
    /** Where the picking begins if there is none yet. */
    otherwise?: string;
    onpick: (paint: string) => void;
    /** How the colour is shown; a small square if not given. */
    sign?: Snippet<[string | undefined]>;
  }
  let { session, label, paint, mixed = false, otherwise = '#26232c', onpick, sign }: Props = $props();

  let open = $state(false);
  let button: HTMLButtonElement | undefined = $state();
  const { head } = $derived(session.plain.piece);
  const color = $derived(colorOf(head, paint));
  const swatch = $derived(swatchIn(paint));
  const name = $derived(mixed ? 'mixed' : swatch === null ? null : (head.swatches?.[swatch]?.name ?? 'missing'));
</script>

<span class="flex items-center gap-1">
  <label class="relative flex items-center" title={label}
    >{#if sign}{@render sign(color)}{:else}<span class="h-4 w-4 rounded border border-current/40" style:background={color ?? 'transparent'}
      ></span>{/if}<input
      class="absolute inset-0 h-full w-full cursor-pointer opacity-0"
      type="color"
      aria-label={label}
      value={(color ?? otherwise).slice(0, 7)}
      onchange={(event) => onpick(event.currentTarget.value)}
    /></label
  >
  <button
    bind:this={button}
    class="max-w-[84px] truncate rounded px-0.5 text-[12px] hover:bg-[var(--chip)] {name === 'missing' ? 'text-[var(--brick-text)]' : ''}"
    aria-label="{label}: {name ?? 'swatches'}"
    aria-expanded={open}
    title="Swatches"
    onclick={() => (open = !open)}>{name ?? '▾'}</button
  >
</span>
{#if open && button}
  <Popover anchor={button} label="Swatches for: {label}" onclose={() => (open = false)} width={250}>
    <SwatchList {session} {paint} {onpick} />
  </Popover>
{/if}
