<script lang="ts">
  import Check from '@lucide/svelte/icons/check';
  import { tourSteps, type TourContext } from './steps';

  /** Leads through the desks by what is done in them; it can be left at any time. */
  let { context, onleave }: { context: TourContext; onleave: () => void } = $props();

  let at = $state(0);
  const step = $derived(tourSteps[at]);
  const isDone = $derived(step?.isDone(context) ?? false);
  let box = $state.raw<DOMRect | null>(null);

  /** So long what was done is seen to be done, ms. */
  const PAUSE = 900;

  $effect(() => {
    if (!isDone) return;
    const timer = setTimeout(() => at++, PAUSE);
    return () => clearTimeout(timer);
  });

  /** What is pointed at may come, go and move while it is worked on. */
  $effect(() => {
    const selector = step?.target;
    const look = () => (box = selector ? (document.querySelector(selector)?.getBoundingClientRect() ?? null) : null);
    look();
    const timer = setInterval(look, 250);
    return () => clearInterval(timer);
  });

  /** Beside what is pointed at: above the strip, else at the foot of the window. */
  const isHigh = $derived(box !== null && box.top > innerHeight / 2);

  const wordsIn = (text: string) => text.split('`').map((words, i) => ({ words, isKey: i % 2 === 1 }));
</script>

{#if box && !isDone}<div
    class="pointer-events-none fixed z-40 rounded-lg border-[3px] border-dashed border-[var(--gold)]"
    style:left="{Math.max(0, box.left - 3)}px"
    style:top="{Math.max(0, box.top - 3)}px"
    style:width="{box.width + 6}px"
    style:height="{box.height + 6}px"
  ></div>{/if}
<section class="pop fixed right-4 {isHigh ? 'top-24' : 'bottom-4'} z-40 flex w-[320px] flex-col gap-2 p-4" aria-label="Tour" aria-live="polite">
  {#if step}
    <p class="flex items-center gap-1" aria-hidden="true">
      {#each tourSteps as _, i (i)}<span
          class="h-[3px] flex-1 rounded-full {i < at || (i === at && isDone)
            ? 'bg-[var(--teal)]'
            : i === at
              ? 'bg-[var(--gold)]'
              : 'bg-[var(--line)]'}"
        ></span>{/each}
    </p>
    <p class="soft text-[12px]">Step {at + 1} of {tourSteps.length}</p>
    <h3 class="flex items-center gap-2 text-[16px]">
      {step.title}{#if isDone}<span class="chip chip-teal"><Check size={13} /> done</span>{/if}
    </h3>
    <p>
      {#each wordsIn(step.words) as { words, isKey }, i (i)}{#if isKey}<kbd>{words}</kbd>{:else}{words}{/if}{/each}
    </p>
    <div class="mt-1 flex items-center gap-2">
      <button class="act" onclick={() => step.comeThere(context)}>Take me there</button>
      <button class="act act-plain" onclick={() => at++}>Skip</button>
      <button class="act act-plain ml-auto" onclick={onleave}>Leave</button>
    </div>
  {:else}
    <h3 class="text-[16px]">That is all of it</h3>
    <p>Wire, try, look, walk: everything else is more of the same. <kbd>Ctrl K</kbd> finds every command, <kbd>?</kbd> the guide and the keys.</p>
    <div class="mt-1 flex items-center gap-2">
      <a class="act act-go" href="/">To the Workroom</a>
      <button class="act act-plain ml-auto" onclick={onleave}>Stay here</button>
    </div>
  {/if}
</section>
