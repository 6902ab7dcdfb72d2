<script lang="ts">
  import { sentence, scopeFor, threadsOf, targetOf, type Thread } from '@zany/core';
  import type { EditorSession } from '$lib/client/session.svelte';

  let { session, scale }: { session: EditorSession; scale: number } = $props();

  const scene = $derived(session.scene);
  const leadsSomewhere = (thread: Thread) => thread.branches.some(({ steps }) => steps.some((step) => targetOf(step)));

  /** From each selected or lit layer that is wired: a stitch that leaves to the right, towards the landings. */
  const stitches = $derived.by(() => {
    if (!scene) return [];
    const wide = scene.scene.width * scale;
    return [...new Set([...session.selection, ...session.lit])].slice(0, 40).flatMap((id) => {
      const item = scene.byId.get(id);
      if (!item) return [];
      const x = (item.box.x + item.box.width) * scale;
      const y = (item.box.y + item.box.height / 2) * scale;
      return threadsOf(session.piece, id)
        .filter(leadsSomewhere)
        .map((thread, i) => {
          const lift = i % 2 === 0 ? -70 : 70;
          return {
            id: thread.id,
            x,
            y,
            words: sentence(thread, scopeFor(session.piece, thread)),
            path: `M${x} ${y} C ${x + 70} ${y}, ${wide + 60} ${y + lift}, ${wide + 420} ${y + lift * 1.4}`,
          };
        });
    });
  });
</script>

<svg class="pointer-events-none absolute inset-0 overflow-visible" width="100%" height="100%" aria-hidden="true">
  {#each stitches as stitch (stitch.id)}
    <path
      d={stitch.path}
      fill="none"
      stroke="var(--gold)"
      stroke-width={session.litThread === stitch.id ? 3.5 : 2.5}
      stroke-dasharray="8 6"
      stroke-linecap="round"><title>{stitch.words}</title></path
    >
    <circle cx={stitch.x} cy={stitch.y} r="5" fill="var(--gold)" />
  {/each}
</svg>
