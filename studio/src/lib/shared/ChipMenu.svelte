<script lang="ts" generics="T">
  import type { MovingExample } from '@zany/core';
  import MovingPicture from './MovingPicture.svelte';
  import Popover from './Popover.svelte';

  interface Option {
    readonly value: T;
    readonly label: string;
    readonly hint?: string;
    /** What it means, said below while it is pointed at. */
    readonly meaning?: string;
    /** What it does, shown there too. */
    readonly example?: () => MovingExample | null;
  }
  interface Props {
    label: string;
    /** What the chip is for, to those who cannot see the sentence around it. */
    name: string;
    options: readonly Option[];
    onpick: (value: T) => void;
    tone?: '' | 'chip-gold' | 'chip-teal' | 'chip-brick' | 'chip-ghost' | 'margin-key';
    filter?: boolean;
    /** What is to be looked at in it. */
    note?: string | undefined;
    onhover?: (value: T | null) => void;
  }
  let { label, name, options, onpick, tone = '', filter = false, note, onhover }: Props = $props();

  let open = $state(false);
  let chip: HTMLButtonElement | undefined = $state();
  let typed = $state('');
  /** Chosen by keys, or by a pointer that moves: one that rests while the list changes under it chooses nothing. */
  let at = $state(0);
  const shown = $derived(options.filter((option) => option.label.toLowerCase().includes(typed.trim().toLowerCase())));

  const example = $derived(open ? (shown[at]?.example?.() ?? null) : null);

  /** Where the keyboard was before it opened; the chip, if that was pressed. */
  let back: HTMLElement | null = null;

  export function show() {
    back = document.activeElement instanceof HTMLElement && document.activeElement !== document.body ? document.activeElement : null;
    [open, at, typed] = [true, 0, ''];
  }

  function pick(value: T) {
    open = false;
    (back?.isConnected ? back : chip)?.focus();
    onpick(value);
  }

  function key(event: KeyboardEvent) {
    if (event.key === 'ArrowDown') at = Math.min(shown.length - 1, at + 1);
    else if (event.key === 'ArrowUp') at = Math.max(0, at - 1);
    else if (event.key === 'Enter') shown[at] && pick(shown[at]!.value);
    else return;
    event.preventDefault();
  }
</script>

<button
  bind:this={chip}
  class={tone === 'margin-key' ? tone : `chip ${tone}`}
  aria-haspopup="listbox"
  aria-expanded={open}
  aria-label="{name}: {label}{note ? `, ${note}` : ''}"
  title={note}
  onclick={() => (open ? (open = false) : show())}
  >{#if note}<span aria-hidden="true">≈</span>{/if}{label}</button
>
{#if open && chip}
  <Popover anchor={chip} label={name} onclose={() => (open = false)}>
    {#if filter}
      <input
        class="field mb-1 w-full"
        data-first
        placeholder="type to filter"
        aria-label="Filter"
        bind:value={typed}
        oninput={() => (at = 0)}
        onkeydown={key}
      />
    {/if}
    <div role="listbox" aria-label={name} tabindex="-1" onkeydown={filter ? undefined : key}>
      {#each shown as option, i (i)}
        <button
          role="option"
          aria-selected={i === at}
          class="menu-row"
          data-first={!filter && i === 0 ? '' : undefined}
          onclick={() => pick(option.value)}
          onpointermove={() => (at = i)}
          onpointerenter={() => onhover?.(option.value)}
          onpointerleave={() => onhover?.(null)}
          onfocus={() => (at = i)}
        >
          <span class="flex-1 truncate">{option.label}</span>{#if option.hint}<span class="soft text-[12px]">{option.hint}</span>{/if}
        </button>
      {:else}
        <p class="soft px-2 py-1">Nothing fits.</p>
      {/each}
    </div>
    {#if shown[at]?.meaning}
      <div class="sticky -bottom-1.5 flex max-w-[300px] flex-col gap-1 border-t border-[var(--line)] bg-inherit px-2 py-1">
        {#if example}<MovingPicture {example} label={shown[at]!.label} />{/if}
        <p class="soft">{shown[at]!.meaning}</p>
      </div>
    {/if}
  </Popover>
{/if}
