<script lang="ts">
  import type { Snippet } from 'svelte';

  /** A long list, of which only what is near the view is there. Short lists are there as a whole. */
  interface Props {
    list: readonly string[];
    /** How many entries come and go together. */
    size: number;
    /** About how high one is, CSS px. */
    height: number;
    /** An entry that is always there. */
    keep: string | null;
    entry: Snippet<[id: string, place: number]>;
  }
  let { list, size, height, keep, entry }: Props = $props();

  const SHORT = 60;
  const GAP = 8;

  let near: ReadonlySet<number> = $state.raw(new Set());
  const runs = $derived(Array.from({ length: Math.ceil(list.length / size) }, (_, run) => list.slice(run * size, (run + 1) * size)));
  const kept = $derived(keep === null ? -1 : Math.floor(list.indexOf(keep) / size));

  const places = new WeakMap<Element, number>();
  const heights = new Map<number, number>();
  const observer = new IntersectionObserver(
    (entries) => {
      const next = new Set(near);
      for (const { target, isIntersecting, boundingClientRect } of entries) {
        const run = places.get(target)!;
        if (next.has(run)) heights.set(run, boundingClientRect.height);
        if (isIntersecting) next.add(run);
        else next.delete(run);
      }
      near = next;
    },
    { rootMargin: '300px' }
  );

  function watch(node: HTMLElement, run: number) {
    places.set(node, run);
    observer.observe(node);
    return { destroy: () => observer.unobserve(node) };
  }
</script>

{#if list.length <= SHORT}
  {#each list as id, place (id)}{@render entry(id, place)}{/each}
{:else}
  {#each runs as run, r (r)}
    {@const isThere = near.has(r) || r === kept}
    <div
      class="flex w-full shrink-0 flex-col items-center gap-2"
      style:min-height={isThere ? '' : `${heights.get(r) ?? run.length * (height + GAP) - GAP}px`}
      use:watch={r}
    >
      {#if isThere}
        {#each run as id, i (id)}{@render entry(id, r * size + i)}{/each}
      {/if}
    </div>
  {/each}
{/if}
