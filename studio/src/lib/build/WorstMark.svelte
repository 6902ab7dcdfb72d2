<script lang="ts">
  /** The worst of what frames lack: a sign on a picture, or a dot in a row. */
  let { worst, isSmall }: { worst: 'must' | 'look' | undefined; isSmall: boolean } = $props();

  const color = $derived(worst === 'must' ? 'bg-[var(--brick)]' : 'bg-[var(--gold-text)]');
  const title = $derived(worst === 'must' ? 'something must be fixed' : 'worth a look');
</script>

{#if worst && isSmall}<span class="h-2 w-2 shrink-0 rounded-full {color}" {title}></span>
{:else if worst}<span class="grid h-3.5 w-3.5 place-items-center rounded-full text-[9px] font-bold text-white {color}" {title}
    >{worst === 'must' ? '×' : '!'}</span
  >{/if}
