<script lang="ts">
  import { commands, keyLabel, layerMenu, type CommandContext } from './commands';

  /** What can be done with the selected layers, where the pointer is. */
  let { context, at, onclose }: { context: CommandContext; at: { x: number; y: number }; onclose: () => void } = $props();

  const groups = $derived(
    layerMenu
      .map((ids) => ids.flatMap((id) => commands.find((command) => command.id === id && (command.when?.(context) ?? true)) ?? []))
      .filter((group) => group.length)
  );

  let box: HTMLElement;

  function place(node: HTMLElement) {
    const { width, height } = node.getBoundingClientRect();
    node.style.left = `${Math.max(8, Math.min(at.x, innerWidth - width - 8))}px`;
    node.style.top = `${Math.max(8, Math.min(at.y, innerHeight - height - 8))}px`;
    node.querySelector('button')?.focus();
  }

  function key(event: KeyboardEvent) {
    event.stopPropagation();
    if (event.key === 'Escape' || event.key === 'Tab') return (event.preventDefault(), onclose());
    const rows = [...box.querySelectorAll('button')];
    const now = rows.indexOf(document.activeElement as HTMLButtonElement);
    const next = { ArrowDown: now + 1, ArrowUp: now - 1, Home: 0, End: rows.length - 1 }[event.key];
    if (next === undefined) return;
    event.preventDefault();
    rows[(next + rows.length) % rows.length]?.focus();
  }
</script>

<svelte:window onpointerdowncapture={(event) => !box.contains(event.target as Node) && onclose()} onresize={onclose} />
<div
  bind:this={box}
  class="pop scroll fixed z-40 max-h-[92vh] w-[270px] p-1.5"
  role="menu"
  aria-label="Layer"
  tabindex="-1"
  data-popover
  use:place
  onkeydown={key}
  oncontextmenu={(event) => event.preventDefault()}
>
  {#each groups as group, i (i)}
    {#if i > 0}<hr class="my-1 border-dashed border-[var(--line)]" />{/if}
    {#each group as command (command.id)}
      <button class="menu-row" role="menuitem" onclick={() => (onclose(), command.run(context))}
        ><span class="min-w-0 flex-1 truncate text-left">{command.short ?? command.label}</span>{#if command.keys}<kbd
            >{keyLabel(command.keys[0]!)}</kbd
          >{/if}</button
      >
    {/each}
  {/each}
</div>
