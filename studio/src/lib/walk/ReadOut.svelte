<script lang="ts">
  import { tick } from 'svelte';
  import { readOut, type Said } from './read-out';

  interface Props {
    /** The running piece. */
    root: HTMLElement | null;
    /** Another one each time that something may be read otherwise. */
    moment: unknown;
  }
  let { root, moment }: Props = $props();

  let open = $state(false);
  let said: readonly Said[] = $state.raw([]);

  $effect(() => {
    void moment;
    if (!open || !root) return;
    let isGone = false;
    // The page is written a moment after the run has come on.
    void tick().then(() =>
      requestAnimationFrame(() => {
        if (!isGone && root) said = readOut(root);
      })
    );
    return () => (isGone = true);
  });
</script>

<details class="border-l border-t border-[var(--line)] bg-[var(--sheet)]" bind:open>
  <summary class="cursor-pointer px-3.5 py-1.5 text-[13px] font-semibold">As it is read out</summary>
  <ol class="scroll max-h-[34vh] px-3.5 pb-2" aria-label="As it is read out">
    {#each said as { role, name, state }, i (i)}
      <li class="flex gap-1.5 py-0.5">
        <span class="soft w-[76px] shrink-0 text-right">{role || 'text'}</span>
        <span class="min-w-0 break-words {name ? '' : 'text-[var(--brick-text)]'}"
          >{name || 'no name'}{#if state}<span class="soft">, {state}</span>{/if}</span
        >
      </li>
    {:else}
      <li class="soft">Nothing on this frame is read out.</li>
    {/each}
  </ol>
</details>
