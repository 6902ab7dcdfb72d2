<script lang="ts">
  import type { EditorSession } from '$lib/client/session.svelte';
  import { onScreen } from './measure';

  /** What others have selected in the open scene, each with a name. */
  let { session, scale }: { session: EditorSession; scale: number } = $props();

  const here = $derived(session.presences.others.filter((other) => other.scene === session.sceneId && other.desk === 'build'));
</script>

<svg class="pointer-events-none absolute inset-0 overflow-visible" width="100%" height="100%" aria-hidden="true">
  {#each here as other (other.client)}
    {#each other.selection as id, i (id)}
      {@const box = session.scene?.byId.get(id)?.box}
      {#if box}
        <rect {...onScreen(box, scale, 2)} fill="none" stroke={other.color} stroke-width="2" stroke-dasharray="2 3" />
        {#if i === 0}
          <g transform="translate({box.x * scale - 2} {box.y * scale - 18})">
            <rect width={other.name.length * 6.4 + 10} height="16" rx="4" fill={other.color} /><text x="5" y="12" font-size="11" fill="#fff"
              >{other.name}</text
            >
          </g>
        {/if}
      {/if}
    {/each}
  {/each}
</svg>
