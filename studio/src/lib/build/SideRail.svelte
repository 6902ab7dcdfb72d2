<script lang="ts">
  import { keyLabel } from '$lib/shared/commands';
  import { sideKinds, type Side, type Sides } from './sides.svelte';

  /** What is left of a side that is folded away. */
  let { side, sides, mark }: { side: Side; sides: Sides; mark: string } = $props();

  const { label, key } = $derived(sideKinds[side]);
</script>

<button
  class="flex h-full w-full cursor-pointer flex-col items-center gap-2 border-x border-[var(--line)] bg-[var(--rim)] pt-3 text-[12px] text-[var(--soft)] hover:bg-[var(--gold-wash)] hover:text-[var(--ink)]"
  aria-label="Unfold the {label}"
  title="Unfold the {label} ({keyLabel(key)})"
  onclick={() => sides.fold(side, false)}
>
  <span aria-hidden="true">{mark}</span>
  <span class="[writing-mode:vertical-rl]">{label}</span>
</button>
