<script lang="ts">
  import type { Snippet } from 'svelte';

  interface Props {
    /** The element it stands at. */
    anchor: HTMLElement;
    onclose: () => void;
    label: string;
    children: Snippet;
    width?: number;
  }
  let { anchor, onclose, label, children, width = 240 }: Props = $props();

  let box: HTMLElement;

  /** Below the anchor, or above it where there is more room; over everything, whatever it is written in. */
  function place(node: HTMLElement) {
    node.showPopover();
    const at = anchor.getBoundingClientRect();
    const below = innerHeight - at.bottom - 12;
    const above = at.top - 12;
    const upward = below < 220 && above > below;
    node.style.left = `${Math.max(8, Math.min(at.left, innerWidth - width - 8))}px`;
    node.style.maxHeight = `${Math.max(120, upward ? above : below)}px`;
    if (upward) node.style.bottom = `${innerHeight - at.top + 4}px`;
    else node.style.top = `${at.bottom + 4}px`;
    const first = node.querySelector<HTMLElement>('[data-first]') ?? node.querySelector<HTMLElement>('input, button');
    first?.focus();
  }

  /** Keys belong to what is written here; the key of a command closes this and is the command's. */
  function key(event: KeyboardEvent) {
    const isWriting = event.target instanceof HTMLElement && ['INPUT', 'TEXTAREA', 'SELECT'].includes(event.target.tagName);
    if (!isWriting && /^[a-z?]$/i.test(event.key) && !event.altKey) return onclose();
    event.stopPropagation();
    if (event.key === 'Escape') {
      const back = anchor;
      onclose();
      back.focus();
    }
  }
</script>

<svelte:window
  onkeydowncapture={(event) => event.key === 'Escape' && document.activeElement === document.body && key(event)}
  onpointerdowncapture={(event) => !box.contains(event.target as Node) && !anchor.contains(event.target as Node) && onclose()}
  onresize={onclose}
/>
<div
  bind:this={box}
  class="pop scroll fixed inset-auto m-0 p-1.5"
  popover="manual"
  style:width="{width}px"
  role="dialog"
  data-popover
  aria-label={label}
  tabindex="-1"
  use:place
  onkeydown={key}
>
  {@render children()}
</div>
