<script lang="ts" module>
  export interface Bringing {
    readonly done: number;
    readonly all: number;
    readonly stop: AbortController;
    /** Pages of documents are read before they are brought in. */
    readonly what?: 'read';
  }
</script>

<script lang="ts">
  import { count, naturally } from '@zany/core';
  import { askBelow } from '$lib/shared/asks-below.svelte';
  import { takeFocus } from '$lib/shared/focus';

  interface Props {
    files: readonly File[] | null;
    bringing: Bringing | null;
    head: { width: number; height: number };
    ontake: (how: 'own size' | 'fitted' | 'layers') => void;
    /** The open scene, which pictures can come into as layers. */
    into: string | null;
    /** Frames are cut out of photographs of paper; null where not all files can be some. */
    onpaper: (() => void) | null;
    oncancel: () => void;
  }
  let { files, bringing, head, into, onpaper, ontake, oncancel }: Props = $props();

  $effect(askBelow);

  const names = $derived([...(files ?? [])].map((file) => file.name).sort(naturally));
</script>

<svelte:window onkeydowncapture={(event) => event.key === 'Escape' && files && oncancel()} />
<div class="pop fixed bottom-6 left-1/2 z-40 flex -translate-x-1/2 items-center gap-4 px-4 py-3" role="dialog" aria-label="Bring in pages">
  {#if bringing}
    <span role="status"
      >{bringing.done} of {bringing.what === 'read' ? `${count(bringing.all, 'page')} read` : `${count(bringing.all, 'picture')} brought in`}</span
    >
    <progress class="progress progress-warning w-52" value={bringing.done} max={bringing.all}></progress>
    <button class="act" onclick={() => bringing.stop.abort()}>Stop</button>
  {:else}
    <span class="max-w-[300px] truncate"
      ><b>{count(names.length, 'page')}</b> <span class="soft">{names.slice(0, 3).join(', ')}{names.length > 3 ? ' …' : ''}</span></span
    >
    <button class="act act-go" onclick={() => ontake('own size')} use:takeFocus>At the pictures' size</button>
    <button class="act" onclick={() => ontake('fitted')}>Fitted to {head.width} × {head.height}</button>
    {#if into}<button class="act" onclick={() => ontake('layers')}>As layers in {into}</button>{/if}
    {#if onpaper}<button class="act" onclick={onpaper}>Cut out of paper…</button>{/if}
    <button class="act act-plain" onclick={oncancel}>Not now</button>
  {/if}
</div>
