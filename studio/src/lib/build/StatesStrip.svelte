<script lang="ts">
  import { addState, compareStates, fieldWords, plainValueWords, posed, removeState, statesOf } from '@zany/core';
  import ChipMenu from '$lib/shared/ChipMenu.svelte';
  import Popover from '$lib/shared/Popover.svelte';
  import RenameField from '$lib/shared/RenameField.svelte';
  import Thumb from '$lib/shared/Thumb.svelte';
  import { newId } from '$lib/client/ids';
  import type { EditorSession } from '$lib/client/session.svelte';
  import LookedWith from './LookedWith.svelte';

  /** The states of the open scene, side by side. A press on a layer in any of them selects it there. */
  let { session }: { session: EditorSession } = $props();

  let renaming: string | null = $state(null);
  let menu: { id: string; anchor: HTMLElement } | null = $state(null);
  let comparing: { a: string; b: string; anchor: HTMLElement } | null = $state(null);

  const id = $derived(session.sceneId!);
  const scene = $derived(session.program.scenes.get(id)!);
  const states = $derived(statesOf(scene.scene));
  const initial = $derived(scene.scene.initial ?? states[0]?.id);
  const size = { width: 150, height: 62 };
  const scale = $derived(Math.min(size.width / scene.scene.width, size.height / scene.scene.height));

  function add(from: string | null) {
    const { operations, id: made } = addState(session.piece, id, newId, { from });
    if (session.edit('New state', operations, 'plain')) {
      session.openState(made);
      renaming = made;
    }
  }

  const set = (name: string, state: string, field: string, value: unknown) =>
    session.edit(name, [{ op: 'set', table: 'scenes', id, path: ['states', state, field], ...(value !== undefined && { value }) }], 'plain');

  /** Opens the state, and selects what was pressed in its picture. */
  function press(state: string, event: MouseEvent) {
    session.openState(state);
    const box = (event.currentTarget as HTMLElement).querySelector('[data-thumb]')?.getBoundingClientRect();
    if (!box || event.detail === 0) return;
    const [x, y] = [(event.clientX - box.left) / scale, (event.clientY - box.top) / scale];
    const seen = posed(session.program, { scene: id, state, look: null }).scenes.get(id)!;
    const hit = [...seen.items]
      .reverse()
      .find(
        ({ box: b, layer, shown }) =>
          shown && !layer.locked && layer.type !== 'group' && x >= b.x && y >= b.y && x <= b.x + b.width && y <= b.y + b.height
      );
    session.select(hit ? [hit.layer.id] : []);
  }

  const differences = $derived.by(() => (comparing ? compareStates(session.piece, scene.scene, comparing.a, comparing.b) : []));
  const nameOf = (state: string) => scene.scene.states?.[state]?.name ?? '';
  const layerName = (path: string) =>
    path
      .split('/')
      .map((one) => session.piece.layers.get(one)?.name ?? '?')
      .join(' / ');
</script>

<LookedWith {session} />
{#each states as state (state.id)}
  {@const isOpen = state.id === session.stateId}
  <div class="flex shrink-0 flex-col gap-1" role="group" aria-label="State {state.name}">
    <button
      class="grid h-[68px] w-[160px] place-items-center overflow-hidden rounded-lg border-2 bg-[var(--sheet)] {isOpen
        ? 'border-[var(--gold)]'
        : 'border-[var(--line)]'}"
      aria-pressed={isOpen}
      aria-label="Open the state {state.name}"
      onclick={(event) => press(state.id, event)}
      oncontextmenu={(event) => {
        event.preventDefault();
        menu = { id: state.id, anchor: event.currentTarget };
      }}
    >
      <span data-thumb><Thumb {scene} state={state.id} assetUrl={session.assetUrl} width={size.width} height={size.height} radius={2} /></span>
    </button>
    <span class="flex w-[160px] items-center gap-1 px-0.5">
      {#if session.canEdit}<input
          type="checkbox"
          class="checkbox checkbox-xs"
          checked={state.done ?? false}
          title="Finished"
          aria-label="{state.name} is finished"
          onchange={(event) =>
            set(
              event.currentTarget.checked ? `Finish ${state.name}` : `Go on with ${state.name}`,
              state.id,
              'done',
              event.currentTarget.checked || undefined
            )}
        />{/if}
      {#if renaming === state.id}
        <RenameField
          name={state.name}
          label="Name of the state"
          class="h-5 min-w-0 flex-1 !px-1"
          onname={(name) => set(`Rename ${state.name}`, state.id, 'name', name)}
          onclose={() => (renaming = null)}
        />
      {:else}
        <button
          class="min-w-0 flex-1 truncate text-left font-semibold"
          title="Double-click to rename"
          ondblclick={() => session.canEdit && (renaming = state.id)}>{state.name}</button
        >
        {#if initial === state.id}<span class="soft text-[12px]" title="The scene begins in this state">begins</span>{/if}
        <button class="soft px-1" aria-label="More about {state.name}" onclick={(event) => (menu = { id: state.id, anchor: event.currentTarget })}
          >⋯</button
        >
      {/if}
    </span>
  </div>
{/each}
{#if session.canEdit}
  <div class="flex h-[68px] w-[140px] shrink-0 flex-col items-center justify-center gap-1.5 rounded-lg border-2 border-dashed border-[var(--line)]">
    <button class="soft hover:text-[var(--ink)]" onclick={() => add(session.stateId)}>add a <b>state</b></button>
    {#if states.length > 1}<ChipMenu
        name="New state from"
        label="from another"
        tone="chip-ghost"
        options={states.map((state) => ({ value: state.id, label: state.name }))}
        onpick={add}
      />{/if}
  </div>
{/if}
{#if states.length === 0}
  <p class="soft max-w-[300px] self-center">
    A scene with states can look several ways: a menu shut and open, a notice with other words. Edits say which states they reach.
  </p>
{/if}

{#if menu}
  {@const state = menu.id}
  <Popover anchor={menu.anchor} label={nameOf(state)} onclose={() => (menu = null)} width={210}>
    {#if session.canEdit}
      <button class="menu-row" onclick={() => ((renaming = state), (menu = null))}>Rename</button>
      <button class="menu-row" onclick={() => (add(state), (menu = null))}>New state from this one</button>
      <button
        class="menu-row"
        disabled={initial === state}
        onclick={() => (
          session.edit(`Begin in ${nameOf(state)}`, [{ op: 'set', table: 'scenes', id, path: ['initial'], value: state }], 'plain'),
          (menu = null)
        )}>Begin in this state</button
      >
    {/if}
    {#each states.filter((other) => other.id !== state) as other (other.id)}
      <button class="menu-row" onclick={() => ((comparing = { a: state, b: other.id, anchor: menu!.anchor }), (menu = null))}
        >Compare with {other.name}</button
      >
    {/each}
    {#if session.canEdit}<button
        class="menu-row text-[var(--brick-text)]"
        onclick={() => (session.edit(`Delete the state ${nameOf(state)}`, removeState(session.piece, id, state), 'plain'), (menu = null))}
        >Delete</button
      >{/if}
  </Popover>
{/if}
{#if comparing}
  <Popover anchor={comparing.anchor} label="What differs" onclose={() => (comparing = null)} width={360}>
    <div class="p-1.5">
      <p class="mb-1.5">What differs between <b>{nameOf(comparing.a)}</b> and <b>{nameOf(comparing.b)}</b></p>
      <table class="w-full text-left text-[12px]">
        <tbody>
          {#each differences as difference (`${difference.layer} ${difference.field}`)}
            <tr class="border-t border-[var(--line)]">
              <td class="py-1 pr-2"
                ><button class="text-left underline" onclick={() => session.select([difference.layer.split('/')[0]!])}
                  >{layerName(difference.layer)}</button
                ></td
              >
              <td class="soft pr-2">{fieldWords(difference.field)}</td>
              <td class="pr-2 tabular-nums">{plainValueWords(session.piece.head, difference.a)}</td>
              <td class="tabular-nums">{plainValueWords(session.piece.head, difference.b)}</td>
            </tr>
          {:else}<tr><td class="soft">Nothing: they look the same.</td></tr>{/each}
        </tbody>
      </table>
    </div>
  </Popover>
{/if}
