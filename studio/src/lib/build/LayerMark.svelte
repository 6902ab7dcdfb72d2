<script lang="ts">
  import { isMediaLayer, isOutlined, layerKinds } from '@zany/core';
  import type { LayerType } from '@zany/core';

  let { type, fill }: { type: LayerType; fill?: string | undefined } = $props();
</script>

<svg width="14" height="14" viewBox="0 0 14 14" class="shrink-0" role="img" aria-label={layerKinds[type].words}>
  {#if type === 'box'}<rect x="1" y="1" width="12" height="12" rx="3" fill={fill ?? 'none'} stroke="currentColor" stroke-opacity=".55" />
  {:else if type === 'oval'}<circle cx="7" cy="7" r="6" fill={fill ?? 'none'} stroke="currentColor" stroke-opacity=".55" />
  {:else if type === 'text'}<text x="2.5" y="12" font-size="13" font-weight="800" fill="currentColor">T</text>
  {:else if type === 'picture'}<rect x="1" y="1" width="12" height="12" rx="2" fill="#cfe1ea" stroke="currentColor" stroke-opacity=".55" /><path
      d="M1 10l4-4 3 3 2-2 3 3"
      fill="none"
      stroke="#1f4e5f"
      stroke-width="1.2"
    />
  {:else if type === 'group'}<rect x="1" y="1" width="8" height="8" rx="2" fill="none" stroke="currentColor" stroke-opacity=".6" /><rect
      x="5"
      y="5"
      width="8"
      height="8"
      rx="2"
      fill="var(--sheet)"
      stroke="currentColor"
      stroke-opacity=".6"
    />
  {:else if type === 'placement'}<rect x="1" y="1" width="12" height="12" rx="3" fill="var(--plum-wash)" stroke="var(--plum)" stroke-width="1.4" />
  {:else if type === 'field'}<rect x="0.8" y="3" width="12.4" height="8" rx="2" fill="var(--sheet)" stroke="currentColor" stroke-opacity=".6" /><line
      x1="3.4"
      y1="5"
      x2="3.4"
      y2="9"
      stroke="currentColor"
    />
  {:else if isMediaLayer({ type })}<rect x="1" y="1" width="12" height="12" rx="2" fill="none" stroke="var(--teal)" /><path
      d="M5 4l5 3-5 3z"
      fill="var(--teal)"
    />
  {:else if isOutlined({ type })}<path d="M1.5 12.5L12.5 1.5" stroke="currentColor" stroke-opacity=".7" stroke-width="1.6" />
  {:else if layerKinds[type].draws === 'nothing'}<rect
      x="1"
      y="1"
      width="12"
      height="12"
      rx="2"
      fill="none"
      stroke="var(--brick)"
      stroke-dasharray="2.4 1.6"
    />
  {:else}<circle cx="7" cy="7" r="3" fill="none" stroke="currentColor" stroke-opacity=".7" />{/if}
</svg>
