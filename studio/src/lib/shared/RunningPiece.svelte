<script lang="ts">
  import { keyOf, Player } from '@zany/player';
  import type { Program, Report, RunState } from '@zany/core';
  import { onMount } from 'svelte';

  interface Props {
    program: Program;
    assetUrl: (asset: string) => string;
    frame?: string | null;
    onreport: (reports: readonly Report[], run: RunState) => void;
    /** Says that a link would open; it then opens in a new tab. */
    onlink?: (address: string) => void;
    player?: Player | null;
    /** Layers outlined because a press on them does something. */
    live?: readonly string[];
  }
  let { program, assetUrl, frame = null, onreport, onlink, player = $bindable(null), live = [] }: Props = $props();

  let host: HTMLElement;

  function openLink(address: string) {
    onlink?.(address);
    if (/^https?:/i.test(address)) window.open(address, '_blank', 'noopener,noreferrer');
    else location.href = address;
  }

  onMount(() => {
    const made = new Player(host, program, { assetUrl, openLink, onReport: onreport, ...(frame && { frame }) });
    player = made;
    if (made.state) onreport([], made.state);
    const keys = (event: KeyboardEvent) => {
      const key = keyOf(event);
      const target = event.target as HTMLElement;
      if (
        key === null ||
        event.defaultPrevented ||
        ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName) ||
        ['Escape', 't', 'T', 'Ctrl+k'].includes(key)
      )
        return;
      if (!host.contains(target) && target !== document.body) return;
      made.send({ type: 'key', key });
    };
    addEventListener('keydown', keys);
    return () => {
      removeEventListener('keydown', keys);
      made.destroy();
      player = null;
    };
  });

  $effect(() => player?.update(program));

  $effect(() => {
    const elements = live.flatMap((id) => player?.elementOf(id) ?? []);
    for (const element of elements) element.style.outline = '2px dashed var(--teal)';
    return () => elements.forEach((element) => (element.style.outline = ''));
  });
</script>

<div bind:this={host} class="relative h-full w-full" data-running></div>
