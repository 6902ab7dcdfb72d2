<script lang="ts">
  /** The part of a frame that something was said of, or is about to be. CSS px. */
  interface Props {
    x: number;
    y: number;
    width: number;
    height: number;
    /** The comment; none where it is still to be written. */
    id?: string | null;
    isOpen?: boolean;
  }
  let { x, y, width, height, id = null, isOpen = false }: Props = $props();
</script>

<span
  class="pointer-events-none absolute rounded border-2 border-dashed {id === null
    ? 'z-10 border-[#b23a26] bg-[#b23a2622]'
    : `border-[#f0b13c] ${isOpen ? 'bg-[#f0b13c33]' : ''}`}"
  style:left="{x}px"
  style:top="{y}px"
  style:width="{width}px"
  style:height="{height}px"
  data-comment-region={id}
></span>
