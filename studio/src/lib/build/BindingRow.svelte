<script lang="ts">
  import { bindingWords, type Bindable, type LineScope } from '@zany/core';
  import ConditionChip from './ConditionChip.svelte';
  import ExpressionField from './ExpressionField.svelte';

  interface Props {
    scope: LineScope;
    what: Bindable;
    value: string;
    canEdit: boolean;
    /** Undefined lets it go. */
    onchange: (value: string | undefined) => void;
  }
  /** A property that always follows an expression, as a sentence under its layer or its scene. */
  let { scope, what, value, canEdit, onchange }: Props = $props();

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
    <ConditionChip {value} {scope} name={begin} {onchange} />
  {:else}
    <ExpressionField {value} {scope} wanted={what === 'state' ? 'text' : 'number'} label={begin} {onchange} />
  {/if}
  {#if canEdit}<button
      class="chip chip-ghost opacity-0 focus:opacity-100 group-hover/binding:opacity-100"
      aria-label="Remove: {bindingWords[what]}"
      onclick={() => onchange(undefined)}>✕</button
    >{/if}
</div>
