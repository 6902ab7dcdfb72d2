<script lang="ts">
  import { stateAtFirst, variablesSeen, type Value, type Variable } from '@zany/core';
  import ChipMenu from '$lib/shared/ChipMenu.svelte';
  import { fieldKey } from '$lib/shared/focus';
  import type { EditorSession } from '$lib/client/session.svelte';
  import NumberField from './NumberField.svelte';

  /** Variables on which it depends how the open scene looks: set here, it is looked at as it is then; the piece stays as it is. */
  let { session }: { session: EditorSession } = $props();

  const { lookedWith } = $derived(session);
  const id = $derived(session.sceneId!);
  const variables = $derived(variablesSeen(session.calm, id).flatMap((one) => session.piece.variables.get(one) ?? []));
  const isOther = $derived(variables.some((one) => lookedWith.values.has(one.id)));
  const valueOf = ({ id: variable, initial }: Variable): Value => lookedWith.values.get(variable) ?? initial;

  function look(variable: Variable, value: Value | undefined) {
    lookedWith.set(variable.id, value === variable.initial ? undefined : value);
    followState();
  }

  function asBegun() {
    lookedWith.clear();
    followState();
  }

  /** The state that the values bring the scene into is the one that is open. */
  function followState() {
    if (session.piece.scenes.get(id)?.stateIs !== undefined) session.openState(stateAtFirst(lookedWith.on(session.program), id));
  }
</script>

{#if variables.length}
  <div
    class="grid h-[88px] shrink-0 grid-flow-col grid-rows-[repeat(3,26px)] gap-x-3 gap-y-0.5 border-r border-dashed border-[var(--line)] pr-3"
    role="group"
    aria-label="Looked at with"
  >
    <span class="flex items-center gap-1.5"
      ><span class="soft whitespace-nowrap" title="Only to look at: the piece begins as before">looked at with</span>
      {#if isOther}<button class="chip chip-ghost whitespace-nowrap" onclick={asBegun}>as it begins</button>{/if}</span
    >
    {#each variables as variable (variable.id)}
      {@const value = valueOf(variable)}
      {@const tone = lookedWith.values.has(variable.id) ? 'chip-gold' : 'chip-teal'}
      <span class="flex items-center gap-1.5">
        <span class="max-w-[110px] truncate" title={variable.name}>{variable.name}</span>
        {#if variable.type === 'yes/no'}
          <button class="chip {tone}" aria-label="Look with {variable.name}: {value ? 'yes' : 'no'}" onclick={() => look(variable, !value)}
            >{value ? 'yes' : 'no'}</button
          >
        {:else if variable.type === 'choice'}
          <ChipMenu
            name="Look with {variable.name}"
            label={String(value)}
            {tone}
            options={(variable.options ?? []).map((option) => ({ value: option, label: option }))}
            onpick={(option) => look(variable, option)}
          />
        {:else if variable.type === 'number'}
          <NumberField
            value={Number(value)}
            label="Look with {variable.name}"
            min={variable.min}
            max={variable.max}
            step={variable.step ?? 1}
            onset={(next) => look(variable, next)}
          />
        {:else}
          <input
            class="field h-[22px] w-[96px] !px-1"
            {value}
            placeholder="empty"
            aria-label="Look with {variable.name}"
            onkeydown={fieldKey}
            onchange={(event) => look(variable, event.currentTarget.value.slice(0, 2000))}
          />
        {/if}
      </span>
    {/each}
  </div>
{/if}
