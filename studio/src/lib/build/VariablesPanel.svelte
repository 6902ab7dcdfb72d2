<script lang="ts">
  import { newVariable, retypeVariable, sentence, scopeFor, usesOfVariable, variablesOf, type Variable } from '@zany/core';
  import ChipMenu from '$lib/shared/ChipMenu.svelte';
  import { takeFocus } from '$lib/shared/focus';
  import { newId } from '$lib/client/ids';
  import type { EditorSession } from '$lib/client/session.svelte';

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
    const taken = new Set([...session.piece.variables.values()].map((variable) => variable.name));
    let n = 1;
    while (taken.has(`Variable ${n}`)) n++;
    if (session.edit('New variable', newVariable(session.piece, id, { name: `Variable ${n}`, type: 'number', initial: 0 }, scene))) renaming = id;
  }

  const set = (variable: Variable, field: string, value: unknown, name = `Change ${variable.name}`) =>
    session.edit(name, [{ op: 'set', table: 'variables', id: variable.id, path: [field], ...(value !== undefined && { value }) }]);

  function rename(variable: Variable, event: Event) {
    const name = (event.currentTarget as HTMLInputElement).value.trim().slice(0, 120);
    renaming = null;
    if (name && name !== variable.name) set(variable, 'name', name, `Rename ${variable.name}`);
  }

  function setNumber(variable: Variable, field: string, event: Event) {
    const { valueAsNumber } = event.currentTarget as HTMLInputElement;
    if (field === 'initial') set(variable, field, Number.isFinite(valueAsNumber) ? valueAsNumber : 0);
    else set(variable, field, Number.isFinite(valueAsNumber) ? valueAsNumber : undefined);
  }

  function setOptions(variable: Variable, event: Event) {
    const options = [
      ...new Set(
        (event.currentTarget as HTMLInputElement).value
          .split(',')
          .map((option) => option.trim().slice(0, 120))
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
  const stop = (event: KeyboardEvent) => {
    event.stopPropagation();
    if (event.key === 'Enter') (event.currentTarget as HTMLElement).blur();
  };
</script>

{#each groups as { scene, title, list } (scene)}
  <section class="flex flex-col gap-2" aria-label={title}>
    <h3 class="soft font-sans text-[12px] font-normal">{title}</h3>
    {#each list as variable (variable.id)}
      <div class="flex flex-col gap-1 border-t border-dashed border-[var(--line)] pt-1.5" role="group" aria-label="Variable {variable.name}">
        <div class="flex items-center gap-1">
          {#if renaming === variable.id}
            <input
              class="field h-[22px] min-w-0 flex-1 !px-1"
              value={variable.name}
              maxlength="120"
              aria-label="Name of the variable"
              use:takeFocus
              onblur={(event) => rename(variable, event)}
              onkeydown={stop}
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
            <input
              class="field h-[22px] w-14 !px-1"
              type="number"
              value={variable.initial}
              aria-label="{variable.name} begins as"
              onkeydown={stop}
              onchange={(event) => setNumber(variable, 'initial', event)}
            />
            {#each ['min', 'max'] as const as limit (limit)}
              <span class="soft">{limit === 'min' ? 'from' : 'to'}</span><input
                class="field h-[22px] w-12 !px-1"
                type="number"
                value={variable[limit] ?? ''}
                placeholder="–"
                aria-label="{variable.name} {limit === 'min' ? 'at least' : 'at most'}"
                onkeydown={stop}
                onchange={(event) => setNumber(variable, limit, event)}
              />
            {/each}
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
              onkeydown={stop}
              onchange={(event) => setOptions(variable, event)}
            />
          {:else}
            <input
              class="field h-[22px] min-w-0 flex-1 !px-1"
              value={variable.initial}
              placeholder="empty"
              aria-label="{variable.name} begins as"
              onkeydown={stop}
              onchange={(event) => set(variable, 'initial', event.currentTarget.value.slice(0, 2000))}
            />
          {/if}
        </div>
        <button
          class="soft text-left text-[11.5px] underline"
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
