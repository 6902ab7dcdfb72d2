<script lang="ts">
  import { takeFocus } from '$lib/shared/focus';
  import { sizes } from './sizes';

  interface Props {
    onmake: (name: string, width: number, height: number) => void;
    /** Where it can be closed, it stands over something else and takes the keys. */
    onclose?: () => void;
  }
  let { onmake, onclose }: Props = $props();

  let name = $state('New piece');
  let width = $state(390);
  let height = $state(844);
  const chosen = $derived(sizes.find((size) => size.width === width && size.height === height)?.id ?? 'own');
  const isGood = $derived(name.trim() !== '' && [width, height].every((n) => Number.isInteger(n) && n >= 1 && n <= 20_000));

  function make(event: SubmitEvent) {
    event.preventDefault();
    if (isGood) onmake(name.trim(), width, height);
  }
</script>

<form
  class="flex flex-wrap items-end gap-4 {onclose ? 'pop p-4' : ''}"
  onsubmit={make}
  onkeydown={(event) => event.key === 'Escape' && onclose?.()}
  aria-label="New piece"
>
  <label class="flex flex-col gap-1">
    <span class="soft">Name</span>
    <input class="field w-52" bind:value={name} maxlength="120" {@attach (field) => void (onclose && takeFocus(field))} />
  </label>
  <div class="flex gap-2" role="group" aria-label="Size">
    {#each sizes as size (size.id)}
      {@const scale = 44 / Math.max(size.width, size.height)}
      <button
        type="button"
        class="flex w-[72px] flex-col items-center gap-1 rounded-lg border p-2 {chosen === size.id
          ? 'border-[var(--gold)] bg-[var(--gold-wash)]'
          : 'border-transparent'}"
        aria-pressed={chosen === size.id}
        onclick={() => ((width = size.width), (height = size.height))}
      >
        <span class="grid h-12 place-items-center"
          ><span
            class="block rounded-[3px] border border-[var(--soft)] bg-[var(--sheet)]"
            style:width="{size.width * scale}px"
            style:height="{size.height * scale}px"
          ></span></span
        >
        <span>{size.label}</span>
        <span class="soft text-[12px]">{size.width} × {size.height}</span>
      </button>
    {/each}
  </div>
  <div class="flex items-end gap-2">
    <label class="flex flex-col gap-1"
      ><span class="soft">Width</span><input class="field w-20" type="number" min="1" max="20000" bind:value={width} /></label
    >
    <span class="soft pb-1">×</span>
    <label class="flex flex-col gap-1"
      ><span class="soft">Height</span><input class="field w-20" type="number" min="1" max="20000" bind:value={height} /></label
    >
  </div>
  <div class="flex gap-2">
    <button class="act act-go" disabled={!isGood}>Make it</button>
    {#if onclose}<button type="button" class="act act-plain" onclick={onclose}>Not now</button>{/if}
  </div>
</form>
