<script lang="ts">
  import { EDGES, isMediaLayer, trimOperations, typeOfField, variablesOf, variableType, type Layer, type Variable } from '@zany/core';
  import ChipMenu from '$lib/shared/ChipMenu.svelte';
  import type { EditorSession } from '$lib/client/session.svelte';
  import { fieldKey } from '$lib/shared/focus';
  import { setLayer } from './acts';
  import { chipOf } from './common';
  import NumberField from './NumberField.svelte';

  /** How layers behave: what stays put, what can be dragged, where a press counts, how they begin, what they are called. */
  let { session, layers }: { session: EditorSession; layers: readonly Layer[] } = $props();

  const first = $derived(layers[0]!);
  const ids = $derived(layers.map((layer) => layer.id));
  const set = (name: string, path: readonly string[], value: unknown) => setLayer(session, ids, name, path, value);

  function togglePin(edge: (typeof EDGES)[number]) {
    const isOn = layers.every(({ pin }) => pin?.includes(edge));
    session.edit(
      'Stay put',
      layers.map(({ id, pin = [] }) => {
        const pins = EDGES.filter((one) => (one === edge ? !isOn : pin.includes(one)));
        return { op: 'set', table: 'layers', id, path: ['pin'], ...(pins.length > 0 && { value: pins }) };
      })
    );
  }

  const has = (is: (layer: Layer) => boolean): boolean[] => layers.map(is);

  const axes = [
    { id: null, label: 'not' },
    { id: 'x', label: 'across' },
    { id: 'y', label: 'up and down' },
    { id: 'both', label: 'freely' },
  ] as const;

  function setBound(edge: 'left' | 'right' | 'top' | 'bottom', value: number) {
    const bounds = { left: 0, right: 0, top: 0, bottom: 0, ...first.drag?.bounds, [edge]: value };
    set('How far it can be dragged', ['drag', 'bounds'], bounds);
  }

  const bounds = $derived(
    (['left', 'right', 'top', 'bottom'] as const).filter((edge) =>
      first.drag?.axis === 'x' ? edge === 'left' || edge === 'right' : first.drag?.axis === 'y' ? edge === 'top' || edge === 'bottom' : true
    )
  );
  const hitWays = [
    { value: undefined, label: 'its own shape' },
    { value: 'own', label: 'a larger area' },
    { value: 'block', label: 'stops here' },
    { value: 'none', label: 'goes through' },
  ] as const;
  const setHit = (how: 'own' | 'none' | 'block' | undefined) =>
    set('Where a press counts', ['hit'], how === undefined ? undefined : { how, ...(how === 'own' && { grow: first.hit?.grow ?? 8 }) });
  const isGroup = $derived(layers.every((layer) => layer.type === 'group'));
  const media = $derived(layers.every((layer) => isMediaLayer(layer)));
  /** How long the file of a video or sound plays, ms. */
  const whole = $derived(session.plain.piece.assets.get(first.asset ?? '')?.ms ?? 0);
  const roles = ['button', 'link', 'heading', 'image', 'text', 'none'] as const;
  const variables = $derived(variablesOf(session.piece, null).concat(variablesOf(session.piece, first.scene)));
  const kinds = ['text', 'number', 'checkbox', 'switch', 'choice', 'slider'] as const;
  /** What the field is kept in, of whatever type; null where that is gone. */
  const variable = $derived(first.field?.variable === undefined ? undefined : (session.piece.variables.get(first.field.variable) ?? null));
  const takes = (one: Variable) => first.field !== undefined && variableType(session.piece, one.id) === typeOfField(first.field);

  const flags = [
    { path: 'hidden', label: 'hidden' },
    { path: 'selected', label: 'selected' },
    { path: 'disabled', label: 'disabled' },
  ] as const;
</script>

<div class="flex flex-col gap-2.5 leading-[22px]" data-bar>
  {#if first.field && layers.every(({ field }) => field)}
    {@const field = first.field}
    <div class="flex flex-wrap items-center gap-1">
      <span class="soft w-16">Field of</span>
      <ChipMenu
        name="Kind of field"
        label={field.kind}
        options={kinds.map((kind) => ({ value: kind, label: kind }))}
        onpick={(kind) =>
          set('Kind of field', ['field'], {
            kind,
            ...(kind === 'choice' && { options: field.options ?? ['One', 'Two'] }),
            ...(field.variable && { variable: field.variable }),
          })}
      />
      <span class="soft">kept in</span>
      <ChipMenu
        name="Variable of the field"
        label={variable === undefined ? 'nothing' : (variable?.name ?? 'a variable that is gone')}
        tone={variable === undefined ? 'chip-ghost' : variable && takes(variable) ? 'chip-teal' : 'chip-brick'}
        note={variable && !takes(variable) ? `${variable.name} takes nothing of what a field of ${field.kind} holds` : undefined}
        options={[{ value: '', label: 'nothing' }, ...variables.filter(takes).map((one) => ({ value: one.id, label: one.name }))]}
        onpick={(id) => set('Variable of the field', ['field', 'variable'], id || undefined)}
      />
    </div>
    {#if field.kind === 'choice'}
      <input
        class="field w-full"
        value={(field.options ?? []).join(', ')}
        aria-label="Options, with commas between"
        onkeydown={fieldKey}
        onchange={(event) =>
          set(
            'Options',
            ['field', 'options'],
            event.currentTarget.value
              .split(',')
              .map((option) => option.trim())
              .filter(Boolean)
          )}
      />
    {:else if field.kind === 'number' || field.kind === 'slider'}
      <div class="flex items-center gap-1">
        <span class="soft w-16">From</span><NumberField
          value={field.min}
          label="At least"
          empty="–"
          onset={(value) => set('Limits', ['field', 'min'], value)}
        />
        <span class="soft">to</span><NumberField
          value={field.max}
          label="At most"
          empty="–"
          onset={(value) => set('Limits', ['field', 'max'], value)}
        />
      </div>
    {:else if field.kind === 'text'}
      <input
        class="field w-full"
        value={field.placeholder ?? ''}
        placeholder="words shown while it is empty"
        aria-label="Words shown while it is empty"
        onkeydown={fieldKey}
        onchange={(event) => set('Placeholder', ['field', 'placeholder'], event.currentTarget.value || undefined)}
      />
    {/if}
  {/if}
  {#if media}
    <div class="flex flex-wrap items-center gap-1">
      <span class="soft w-16">Plays</span>
      {#each [['autoplay', 'by itself'], ['loop', 'round and round'], ['muted', 'silently']] as const as [path, label] (path)}
        <button
          {...chipOf(has((layer) => layer.media?.[path] === true))}
          onclick={() => set(`Plays ${label}`, ['media', path], layers.every(({ media }) => media?.[path]) ? undefined : true)}>{label}</button
        >
      {/each}
    </div>
    {#if layers.length === 1 && whole}
      <div class="flex flex-wrap items-center gap-1">
        <span class="soft w-16">Part</span>
        {#each ['from', 'to'] as const as edge (edge)}
          <span class="soft">{edge}</span>
          <NumberField
            value={(first.media?.[edge] ?? (edge === 'from' ? 0 : whole)) / 1000}
            label="Plays {edge}, seconds"
            min={0}
            max={whole / 1000}
            step={0.1}
            width={62}
            onset={(value) =>
              session.edit(
                edge === 'from' ? 'Where it begins' : 'Where it ends',
                trimOperations(session.plain.piece, first.id, edge, (value ?? 0) * 1000, whole),
                'plain'
              )}
          />
        {/each}
        <span class="soft">s of {Math.round(whole / 100) / 10} s</span>
      </div>
    {/if}
    <div class="flex items-center gap-2">
      <span class="soft w-16">Volume</span><input
        class="slide flex-1"
        type="range"
        min="0"
        max="100"
        aria-label="Volume"
        value={Math.round((first.style.volume ?? 1) * 100)}
        onchange={(event) => set('Volume', ['style', 'volume'], event.currentTarget.valueAsNumber / 100)}
      />
    </div>
  {/if}
  <div class="flex flex-wrap items-center gap-1">
    <span class="soft w-16">Begins</span>
    {#each flags as { path, label } (path)}
      <button
        {...chipOf(has((layer) => layer[path] === true))}
        onclick={() => set(`Begins ${label}`, [path], layers.every((layer) => layer[path]) ? undefined : true)}>{label}</button
      >
    {/each}
  </div>
  <div class="flex flex-wrap items-center gap-1">
    <span class="soft w-16">Stays put</span>
    {#each EDGES as edge (edge)}
      <button {...chipOf(has(({ pin }) => pin?.includes(edge) === true))} onclick={() => togglePin(edge)}>{edge}</button>
    {/each}
  </div>
  <div class="flex flex-wrap items-center gap-1">
    <span class="soft w-16">Dragged</span>
    {#each axes as { id, label } (label)}
      <button
        {...chipOf(has(({ drag }) => (drag?.axis ?? null) === id))}
        onclick={() => set(`Dragged ${label}`, id === null ? ['drag'] : ['drag', 'axis'], id ?? undefined)}>{label}</button
      >
    {/each}
  </div>
  {#if first.drag}
    <div class="flex flex-wrap items-center gap-1">
      <span class="soft w-16">within</span>
      {#each bounds as edge (edge)}
        <span class="soft">{edge}</span><NumberField
          value={first.drag.bounds?.[edge] ?? 0}
          label="Drag limit {edge}"
          onset={(value) => setBound(edge, value ?? 0)}
        />
      {/each}
      <button
        {...chipOf(has(({ drag }) => drag?.inertia === true))}
        onclick={() => set('Goes on when let go', ['drag', 'inertia'], first.drag?.inertia ? undefined : true)}>goes on when let go</button
      >
    </div>
  {/if}
  {#if isGroup}
    <div class="flex flex-wrap items-center gap-1">
      <span class="soft w-16">Inside</span>
      <button
        {...chipOf(has(({ clip }) => clip === true))}
        onclick={() => set('Cut off at its edges', ['clip'], layers.every(({ clip }) => clip) ? undefined : true)}>cut off at its edges</button
      >
      {#each [['x', 'scrolls across'], ['y', 'scrolls down']] as const as [axis, label] (axis)}
        <button {...chipOf(has(({ scroll }) => scroll === axis))} onclick={() => set(label, ['scroll'], first.scroll === axis ? undefined : axis)}
          >{label}</button
        >
      {/each}
    </div>
  {/if}
  <div class="flex flex-wrap items-center gap-1">
    <span class="soft w-16">A press on</span>
    {#each hitWays as way (way.label)}
      <button {...chipOf(has(({ hit }) => hit?.how === way.value))} onclick={() => setHit(way.value)}>{way.label}</button>
    {/each}
    {#if first.hit?.how === 'own'}<span class="soft">larger by</span><NumberField
        value={first.hit.grow ?? 0}
        label="Larger by"
        onset={(value) => set('Where a press counts', ['hit', 'grow'], value ?? 0)}
      />{/if}
  </div>
  <div class="flex flex-wrap items-center gap-1">
    <span class="soft w-16">Read out as</span>
    <ChipMenu
      name="Role"
      label={first.role ?? 'what it does'}
      options={[{ value: '', label: 'what it does' }, ...roles.map((role) => ({ value: role as string, label: role as string }))]}
      onpick={(role) => set('Role', ['role'], role || undefined)}
    />
    {#if layers.length === 1}<input
        class="field h-[22px] min-w-0 flex-1 !px-1.5"
        value={first.label ?? ''}
        placeholder={first.text ?? first.name}
        maxlength="200"
        aria-label="Accessible name"
        onkeydown={fieldKey}
        onchange={(event) => set('Accessible name', ['label'], event.currentTarget.value.trim() || undefined)}
      />{/if}
  </div>
</div>
