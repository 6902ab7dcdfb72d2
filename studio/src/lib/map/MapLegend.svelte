<script lang="ts">
  import type { EditorSession } from '$lib/client/session.svelte';
  import Popover from '$lib/shared/Popover.svelte';
  import { markSigns } from './web';

  /** What lines, edges and marks on the map mean. */
  let { session, anchor, onclose }: { session: EditorSession; anchor: HTMLElement; onclose: () => void } = $props();

  const kinds = $derived(Object.values(session.piece.head.kinds ?? {}));

  const lines = [
    ['var(--gold)', 'leads on; the thicker, the more threads'],
    ['var(--teal)', 'all its threads were walked; by a link: the thicker, the more often'],
  ] as const;
  const edges = [
    ['var(--gold)', '2.5', '', 'chosen'],
    ['var(--plum)', '2.5', '', 'found'],
    ['var(--soft)', '1.5', '5 3', 'a draft, still to be drawn'],
  ] as const;
  const marks = [
    [`${markSigns.back} 2`, 'two threads lead back to where one came from'],
    [`${markSigns.toHub} Home`, 'leads to a frame that many lead to'],
    [`${markSigns.hub} 23`, 'so many frames lead here'],
    [`${markSigns.said} 2`, 'two comments that are open'],
    [markSigns.piece, 'a thread of the whole piece leads here; so does a sheet by its name'],
    ['if', 'leads on under a condition'],
    ['× 3', 'three threads in one ribbon'],
    ['● 4', 'loose ends'],
    ['● ✕', 'pressed by those who came by a link: something came of it, or nothing'],
  ] as const;
</script>

<Popover {anchor} label="What the map means" {onclose} width={270}>
  <dl class="grid grid-cols-[56px_1fr] items-center gap-x-2 gap-y-1 px-1.5 py-1 text-[12.5px]">
    {#each lines as [color, meaning] (meaning)}
      <dt>
        <svg width="48" height="14" aria-hidden="true"
          ><path d="M3 7C16 1 32 13 44 7" fill="none" stroke={color} stroke-width="2.4" stroke-dasharray="6 4" /><circle
            cx="44"
            cy="7"
            r="3"
            fill="var(--sheet)"
            stroke={color}
            stroke-width="1.5"
          /></svg
        >
      </dt>
      <dd>{meaning}</dd>
    {/each}
    {#each edges as [color, wide, dash, meaning] (meaning)}
      <dt>
        <svg width="48" height="18" aria-hidden="true"
          ><rect x="18" y="2" width="11" height="14" fill="var(--sheet)" stroke={color} stroke-width={wide} stroke-dasharray={dash} /></svg
        >
      </dt>
      <dd>{meaning}</dd>
    {/each}
    {#each marks as [mark, meaning] (mark)}
      <dt class="whitespace-nowrap text-[12px]">{mark}</dt>
      <dd>{meaning}</dd>
    {/each}
    {#each kinds as kind (kind.name)}
      <dt><b style:color={kind.color}>{kind.mark}</b></dt>
      <dd>{kind.name}</dd>
    {/each}
  </dl>
</Popover>
