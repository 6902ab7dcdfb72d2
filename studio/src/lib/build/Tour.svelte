<script lang="ts">
  import type { EditorSession } from '$lib/client/session.svelte';
  import { takeFocus } from '$lib/shared/focus';
  import { tourSteps } from './tour-steps';

  /** Five steps through the Build desk; it can be left at any time. */
  let { session, onleave }: { session: EditorSession; onleave: () => void } = $props();

  let at = $state(0);
  const step = $derived(tourSteps[at]!);
  let box: DOMRect | null = $state.raw(null);

  $effect(() => {
    step.prepare?.(session);
    const found = requestAnimationFrame(() => (box = document.querySelector(step.target)?.getBoundingClientRect() ?? null));
    return () => cancelAnimationFrame(found);
  });

  const wide = 300;
  /** Beside what it speaks of: right of it, left of it, or above. */
  const place = $derived.by(() => {
    if (!box) return { left: innerWidth / 2 - wide / 2, top: innerHeight / 2 - 80 };
    if (box.right + wide + 24 < innerWidth) return { left: box.right + 14, top: Math.max(56, Math.min(box.top + 8, innerHeight - 220)) };
    if (box.left - wide - 24 > 0) return { left: box.left - wide - 14, top: Math.max(56, Math.min(box.top + 8, innerHeight - 220)) };
    return { left: Math.max(16, box.left + 24), top: Math.max(56, box.top - 180) };
  });

  function key(event: KeyboardEvent) {
    if (event.key !== 'Escape') return;
    event.stopPropagation();
    onleave();
  }
</script>

<svelte:window onkeydowncapture={key} />
{#if box}<div
    class="pointer-events-none fixed z-40 rounded-lg border-[3px] border-dashed border-[var(--gold)]"
    style:left="{box.left - 3}px"
    style:top="{box.top - 3}px"
    style:width="{box.width + 6}px"
    style:height="{box.height + 6}px"
  ></div>{/if}
<div
  class="pop fixed z-50 flex flex-col gap-2 p-4"
  style:left="{place.left}px"
  style:top="{place.top}px"
  style:width="{wide}px"
  role="dialog"
  aria-label="Tour"
>
  <p class="soft text-[12px]">{at + 1} of {tourSteps.length}</p>
  <h3 class="text-[16px]">{step.title}</h3>
  <p>{step.words}</p>
  <div class="mt-1 flex items-center gap-2">
    {#key at}<button class="act act-go" use:takeFocus onclick={() => (at + 1 < tourSteps.length ? at++ : onleave())}
        >{at + 1 < tourSteps.length ? 'Next' : 'Begin'}</button
      >{/key}
    {#if at > 0}<button class="act act-plain" onclick={() => at--}>Back</button>{/if}
    <button class="act act-plain ml-auto" onclick={onleave}>Leave</button>
  </div>
</div>
