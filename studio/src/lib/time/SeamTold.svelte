<script lang="ts">
  import { drawWords } from './seam-drawing';
  import SeamCanvas from './SeamCanvas.svelte';

  /** The moment that is gone to along the seam, on a tag on the ruler beside the pointer: as elements, words that change cost the most. */
  interface Props {
    words: string;
    clientX: number;
    /** CSS px of the ruler, and of all that is in view, names included. */
    height: number;
    view: number;
  }
  let { words, clientX, height, view }: Props = $props();
</script>

<div class="pointer-events-none sticky left-0 top-0 z-30 h-0" aria-hidden="true">
  <SeamCanvas
    class="absolute top-0"
    {height}
    {view}
    draw={(context, ink, wide, beginsAt) => drawWords(context, words, clientX - beginsAt, wide, ink)}
    data-seam-told
  />
</div>
