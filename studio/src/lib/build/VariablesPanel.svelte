<script lang="ts">
  import {
    cutText,
    MOST_NAME,
    newVariable,
    retypeVariable,
    sentence,
    scopeFor,
    takeName,
    usesOfVariable,
    variablesOf,
    type Variable,
  } from '@zany/core';
  import ChipMenu from '$lib/shared/ChipMenu.svelte';
  import { fieldKey } from '$lib/shared/focus';
  import RenameField from '$lib/shared/RenameField.svelte';
  import { newId } from '$lib/client/ids';
  import type { EditorSession } from '$lib/client/session.svelte';
  import NumberField from './NumberField.svelte';

  /** The variables of the piece and of the open scene: what each is, how it begins, and where it is read and set. */
  let { session }: { session: EditorSession } = $props();

  let renaming: string | null = $state(null);
  let used: string | null = $state(null);

  const groups = $derived([
    { scene: null as string | null, title: 'Of the piece', list: variablesOf(session.piece, null) },
    ...(session.scene ? [{ scene: session.scene.scene.id, title: `Of ${session.scene.scene.name}`, list: session.scene.variables }] : []),
  ]);
  const types = (['yes/no', 'number', 'text', 'choice'] as const).map((type) => ({ value: type, label: type }));

  function add(scene: string | null) {
    const id = newId();
    const name = takeName(new Set([...session.piece.variables.values()].map((variable) => variable.name)), 'Variable 1');
    if (session.edit('New variable', newVariable(session.piece, id, { name, type: 'number', initial: 0 }, scene))) renaming = id;
  }

  const set = (variable: Variable, field: string, value: unknown, name = `Change ${variable.name}`) =>
    session.edit(name, [{ op: 'set', table: 'variables', id: variable.id, path: [field], ...(value !== undefined && { value }) }]);

  function setOptions(variable: Variable, event: Event) {
    const options = [
      ...new Set(
        (event.currentTarget as HTMLInputElement).value
          .split(',')
          .map((option) => cutText(option.trim(), MOST_NAME))
          .filter(Boolean)
      ),
    ];
    if (!options.length) return;
    const initial = options.includes(String(variable.initial)) ? variable.initial : options[0]!;
    const next: Variable = { ...variable, options, initial };
    session.edit(`Choices of ${variable.name}`, [{ op: 'put', table: 'variables', value: next }]);
  }

  const uses = $derived(used === null ? [] : usesOfVariable(session.piece, used));

  function whereWords(owner: string | null, thread: string | null): string {
    const found = thread === null ? undefined : session.piece.threads.get(thread);
    const name = owner === null ? 'On every frame' : (session.piece.layers.get(owner)?.name ?? session.piece.scenes.get(owner)?.name ?? '');
    return found ? `${name}: ${sentence(found, scopeFor(session.piece, found))}` : name;
  }

  function show(owner: string | null) {
    if (owner === null) return;
    const layer = session.piece.layers.get(owner);
    session.openScene(layer?.scene ?? owner);
    if (layer) session.select([layer.id]);
  }

  function remove(variable: Variable) {
    const count = usesOfVariable(session.piece, variable.id).length;
    if (session.edit(`Delete ${variable.name}`, [{ op: 'remove', table: 'variables', id: variable.id }]) && count)
      session.notify(`${variable.name} was used in ${count} places, which are loose ends now.`, { label: 'Undo', run: () => session.undo() });
  }
</script>

{#each groups as { scene, title, list } (scene)}
  <section class="flex flex-col gap-2" aria-label={title}>
    <h3 class="soft font-sans text-[12px] font-normal">{title}</h3>
    {#each list as variable (variable.id)}
      <div class="flex flex-col gap-1 border-t border-dashed border-[var(--line)] pt-1.5" role="group" aria-label="Variable {variable.name}">
        <div class="flex items-center gap-1">
          {#if renaming === variable.id}
            <RenameField
              name={variable.name}
              label="Name of the variable"
              class="h-[22px] min-w-0 flex-1 !px-1"
              onname={(name) => set(variable, 'name', name, `Rename ${variable.name}`)}
              onclose={() => (renaming = null)}
            />
          {:else}
            <button class="min-w-0 flex-1 truncate text-left font-semibold" title="Double-click to rename" ondblclick={() => (renaming = variable.id)}
              >{variable.name}</button
            >
          {/if}
          <ChipMenu
            name="Type of {variable.name}"
            label={variable.type}
            options={types}
            onpick={(type) => session.edit(`Type of ${variable.name}`, retypeVariable(variable, type))}
          />
          {#if session.canEdit}<button class="soft px-0.5" aria-label="Delete {variable.name}" onclick={() => remove(variable)}>✕</button>{/if}
        </div>
        <div class="flex flex-wrap items-center gap-1">
          <span class="soft">begins as</span>
          {#if variable.type === 'yes/no'}
            <button class="chip chip-teal" onclick={() => set(variable, 'initial', !variable.initial)}>{variable.initial ? 'yes' : 'no'}</button>
          {:else if variable.type === 'number'}
            <NumberField
              value={Number(variable.initial)}
              label="{variable.name} begins as"
              empty="0"
              onset={(value) => set(variable, 'initial', value ?? 0)}
            />
            <span class="flex items-center gap-1">
              {#each ['min', 'max'] as const as limit (limit)}
                <span class="soft">{limit === 'min' ? 'from' : 'to'}</span><NumberField
                  value={variable[limit]}
                  label="{variable.name} {limit === 'min' ? 'at least' : 'at most'}"
                  onset={(value) => set(variable, limit, value)}
                  empty="–"
                />
              {/each}
            </span>
          {:else if variable.type === 'choice'}
            <ChipMenu
              name="{variable.name} begins as"
              label={String(variable.initial)}
              tone="chip-teal"
              options={(variable.options ?? []).map((option) => ({ value: option, label: option }))}
              onpick={(option) => set(variable, 'initial', option)}
            />
            <input
              class="field h-[22px] w-full !px-1"
              value={(variable.options ?? []).join(', ')}
              aria-label="Choices of {variable.name}"
              onkeydown={fieldKey}
              onchange={(event) => setOptions(variable, event)}
            />
          {:else}
            <input
              class="field h-[22px] min-w-0 flex-1 !px-1"
              value={variable.initial}
              placeholder="empty"
              aria-label="{variable.name} begins as"
              onkeydown={fieldKey}
              onchange={(event) => set(variable, 'initial', event.currentTarget.value.slice(0, 2000))}
            />
          {/if}
        </div>
        <button
          class="soft text-left text-[12px] underline"
          onclick={() => (used = used === variable.id ? null : variable.id)}
          aria-expanded={used === variable.id}>{used === variable.id ? 'hide where it is used' : 'where it is used'}</button
        >
        {#if used === variable.id}
          {#each uses as use, i (i)}
            <button class="stitch text-left text-[12px]" onclick={() => show(use.owner)}
              ><b>{use.how}</b> · {whereWords(use.owner, use.thread)}</button
            >
          {:else}<p class="soft text-[12px]">Nowhere yet.</p>{/each}
        {/if}
      </div>
    {/each}
    {#if session.canEdit}<button class="chip chip-ghost self-start" onclick={() => add(scene)}>+ variable</button>{/if}
  </section>
{/each}
<p class="soft text-[12px]">A line such as <b>set Seats to 3</b> makes a variable as well.</p>
