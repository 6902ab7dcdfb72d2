<script lang="ts">
  import { takeFocus } from './focus';
  import { commands, keyLabel, otherKeys } from './commands';

  let { onclose }: { onclose: () => void } = $props();

  const groups = [...new Set(commands.filter((command) => command.keys).map((command) => command.group))];
</script>

<svelte:window
  onkeydowncapture={(event) => {
    if (event.key === 'Escape' || event.key === '?') {
      event.stopPropagation();
      onclose();
    }
  }}
/>
<div
  class="fixed inset-0 z-50 grid place-items-center bg-black/20"
  role="presentation"
  onpointerdown={(event) => event.target === event.currentTarget && onclose()}
>
  <div class="pop scroll max-h-[86vh] w-[860px] max-w-[94vw] p-5" role="dialog" aria-label="Keys">
    <div class="mb-3 flex items-center">
      <h2 class="flex-1 text-[18px]">Keys</h2>
      <button class="act act-plain" onclick={onclose} use:takeFocus aria-label="Close">✕</button>
    </div>
    <div class="columns-3 gap-6 max-lg:columns-2">
      {#each groups as group (group)}
        <section class="mb-4 break-inside-avoid">
          <h3 class="mb-1 text-[13px] text-[var(--gold-text)]">{group}</h3>
          {#each commands.filter((command) => command.group === group && command.keys) as command (command.id)}
            <p class="flex items-baseline gap-2 py-0.5"><span class="flex-1">{command.label}</span><kbd>{keyLabel(command.keys![0]!)}</kbd></p>
          {/each}
        </section>
      {/each}
      <section class="break-inside-avoid">
        <h3 class="mb-1 text-[13px] text-[var(--gold-text)]">Also</h3>
        {#each otherKeys as other (other.keys)}<p class="py-0.5"><kbd>{other.keys}</kbd> <span class="soft">{other.label}</span></p>{/each}
      </section>
    </div>
  </div>
</div>
