<script lang="ts">
  import LayerMark from './LayerMark.svelte';
  import type { Tool } from './tools';

  let { tool }: { tool: Tool } = $props();
</script>

{#if tool === 'select'}<svg width="14" height="14" viewBox="0 0 14 14" class="shrink-0" aria-hidden="true"
    ><path d="M3 1.5l8.5 6.2-4 .6-2 3.9z" fill="currentColor" /></svg
  >{:else}<LayerMark type={tool} />{/if}
