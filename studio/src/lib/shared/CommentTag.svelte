<script lang="ts">
  /** A label sewn on where something was said, its tip at the place; with how many have spoken. */
  interface Props {
    answers: number;
    label: string;
    title?: string;
    isUnread?: boolean;
    isOpen?: boolean;
    /** For fingers. */
    isLarge?: boolean;
    onclick: () => void;
  }
  let { answers, label, title, isUnread = false, isOpen = false, isLarge = false, onclick }: Props = $props();
</script>

<span class="block drop-shadow-md">
  <button
    class="comment-tag {isLarge ? 'h-8 min-w-[46px] pl-4 text-[14px]' : 'h-5 min-w-[30px] pl-2.5 text-[11px]'} {isUnread
      ? 'bg-[#b23a26] text-white'
      : 'bg-[#f0b13c] text-[#26232c]'} {isOpen ? 'underline' : ''}"
    aria-label={label}
    aria-pressed={isOpen}
    {title}
    onpointerdown={(event) => event.stopPropagation()}
    {onclick}>{answers + 1}</button
  >
</span>

<style>
  .comment-tag {
    display: grid;
    place-items: center;
    font-weight: 700;
    /* A cloth label: cut to a tip, with the hole that the thread goes through. */
    clip-path: polygon(0.8em 0, 100% 0, 100% 100%, 0.8em 100%, 0 50%);
    background-image: radial-gradient(circle at 0.95em 50%, rgb(0 0 0 / 55%) 0.18em, transparent 0.2em);
  }
  .comment-tag:focus-visible {
    outline: 2px solid currentColor;
    outline-offset: -4px;
  }
</style>
