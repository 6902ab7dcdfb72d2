<script lang="ts">
  import { clausesOf, displayExpression, writeClauses, type Clause, type LineScope } from '@zany/core';
  import Popover from '$lib/shared/Popover.svelte';
  import ClauseRow from './ClauseRow.svelte';
  import ExpressionField from './ExpressionField.svelte';

  interface Props {
    /** The stored condition. */
    value: string;
    scope: LineScope;
    name?: string;
    onchange: (stored: string) => void;
    start?: boolean;
  }
  let { value, scope, name = 'Condition', onchange, start = false }: Props = $props();

  // svelte-ignore state_referenced_locally
  let open = $state(start);
  let chip: HTMLButtonElement | undefined = $state();
  const words = $derived(value === 'true' ? 'always' : displayExpression(value, scope.expression).text);
  const clauses = $derived(value === 'true' ? { join: 'and' as const, list: [] } : clausesOf(value));

  const setList = (list: readonly Clause[]) => clauses && onchange(writeClauses({ ...clauses, list }));
  const fresh = $derived.by((): Clause => {
    const variable = scope.variables[0];
    return variable ? { left: `‹${variable.id}›`, how: '=', right: '0' } : { left: 'frame.name', how: '=', right: '""' };
  });
</script>

<button bind:this={chip} class="chip chip-teal" aria-expanded={open} aria-label="{name}: {words}" onclick={() => (open = !open)}>{words}</button>
{#if open && chip}
  <Popover anchor={chip} label={name} onclose={() => (open = false)} width={340}>
    <div class="flex flex-col gap-2 p-1.5">
      {#if clauses}
        {#each clauses.list as clause, i (i)}
          <div class="flex items-start gap-1">
            <span class="soft w-9 pt-0.5">
              {#if i === 0}if{:else}<button
                  class="underline decoration-dotted"
                  title="Change between and, or"
                  onclick={() => onchange(writeClauses({ ...clauses, join: clauses.join === 'and' ? 'or' : 'and' }))}>{clauses.join}</button
                >{/if}
            </span>
            <ClauseRow {clause} {scope} onchange={(next) => setList(clauses.list.map((old, at) => (at === i ? next : old)))} />
            <button class="soft ml-auto px-1" aria-label="Remove this clause" onclick={() => setList(clauses.list.filter((_, at) => at !== i))}
              >✕</button
            >
          </div>
        {/each}
        <button class="chip chip-ghost self-start" onclick={() => setList([...clauses.list, fresh])}
          >+ {clauses.list.length ? clauses.join : 'if'} …</button
        >
      {:else}
        <p class="soft">More than chips can say; it is written out below.</p>
      {/if}
      <label class="flex flex-col gap-1 border-t border-dashed border-[var(--line)] pt-2">
        <span class="soft">as text</span>
        <ExpressionField {value} {scope} wanted="yes/no" label="{name} as text" {onchange} wide />
      </label>
    </div>
  </Popover>
{/if}
