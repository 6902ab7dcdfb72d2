<script lang="ts">
  import { bindingWords, scopeOf, type Bindable, type Layer } from '@zany/core';
  import type { EditorSession } from '$lib/client/session.svelte';
  import { bind } from './acts';
  import ConditionChip from './ConditionChip.svelte';
  import ExpressionField from './ExpressionField.svelte';

  /** A property that always follows an expression, as a sentence under its layer. */
  let { session, layer, what, value }: { session: EditorSession; layer: Layer; what: Bindable; value: string } = $props();

  const scope = $derived(scopeOf(session.piece, layer.scene, layer.id));
  const isCondition = $derived(what === 'shown' || what === 'enabled' || what === 'selected');
  const begin = $derived(bindingWords[what].replace(/^\w/, (letter) => letter.toUpperCase()));
</script>

<div
  class="stitch stitch-off group/binding my-1.5 flex flex-wrap items-center gap-1 leading-[22px]"
  role="group"
  aria-label="Binding: {bindingWords[what]}"
>
  <span>{begin}</span>
  {#if isCondition}
    <ConditionChip {value} {scope} name={begin} onchange={(next) => bind(session, [layer.id], what, next)} />
  {:else}
    <ExpressionField
      {value}
      {scope}
      wanted={what === 'state' ? 'text' : 'number'}
      label={begin}
      onchange={(next) => bind(session, [layer.id], what, next)}
    />
  {/if}
  {#if session.canEdit}<button
      class="chip chip-ghost opacity-0 focus:opacity-100 group-hover/binding:opacity-100"
      aria-label="Remove: {bindingWords[what]}"
      onclick={() => bind(session, [layer.id], what, undefined)}>✕</button
    >{/if}
</div>
