<script lang="ts">
  import { copyText } from './copy';

  /** An address to give to somebody: it can be copied in one press, and selected where the browser does not allow that. */
  let { value, label }: { value: string; label: string } = $props();
  let field: HTMLInputElement;
  let copied = $state(false);

  async function copy() {
    copied = await copyText(value);
    if (!copied) field.select();
  }
</script>

<div class="flex gap-2">
  <input
    bind:this={field}
    class="field h-8 min-w-0 flex-1 text-[12.5px]"
    readonly
    {value}
    aria-label={label}
    onfocus={(event) => event.currentTarget.select()}
  />
  <button class="act h-8" onclick={copy}>{copied ? 'Copied' : 'Copy'}</button>
</div>
