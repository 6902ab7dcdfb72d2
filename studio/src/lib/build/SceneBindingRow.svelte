<script lang="ts">
  import { bindingWords, scopeOf, type Scene } from '@zany/core';
  import type { EditorSession } from '$lib/client/session.svelte';
  import { bindState } from './acts';
  import ExpressionField from './ExpressionField.svelte';

  /** The state that a scene is always in, as a sentence under what is the scene's own. */
  let { session, scene, value }: { session: EditorSession; scene: Scene; value: string } = $props();

  const scope = $derived(scopeOf(session.piece, scene.id));
</script>

<div
  class="stitch stitch-off group/binding my-1.5 flex flex-wrap items-center gap-1 leading-[22px]"
  role="group"
  aria-label="Binding: {bindingWords.state}"
>
  <span>State is</span>
  <ExpressionField {value} {scope} wanted="text" label="State is" onchange={(next) => bindState(session, scene.id, next)} />
  {#if session.canEdit}<button
      class="chip chip-ghost opacity-0 focus:opacity-100 group-hover/binding:opacity-100"
      aria-label="Remove: {bindingWords.state}"
      onclick={() => bindState(session, scene.id, undefined)}>✕</button
    >{/if}
</div>
