<script lang="ts">
  import {
    fieldAt,
    likelyFrames,
    PLACES,
    variableType,
    type LineScope,
    type Named,
    type Scene,
    type Slot,
    type Target,
    type Timing,
    type Transition,
  } from '@zany/core';
  import ChipMenu from '$lib/shared/ChipMenu.svelte';
  import { getDesk } from '$lib/shared/desk.svelte';
  import { fieldKey } from '$lib/shared/focus';
  import ExpressionField from './ExpressionField.svelte';
  import TransitionChip from './TransitionChip.svelte';

  interface Props {
    slot: Slot;
    value: unknown;
    text: string;
    /** The cue or step that it is a place in. */
    whole: unknown;
    scope: LineScope;
    layer?: string | null;
    /** It says the same as another thread, and is not likely meant to. */
    alike?: boolean;
    onchange: (value: unknown) => void;
  }
  let { slot, value, text, whole, scope, layer = null, alike = false, onchange }: Props = $props();

  const session = $derived(getDesk()?.session ?? null);
  const of = $derived(slot.of === undefined ? undefined : ((fieldAt(whole, slot.of) as string | undefined) ?? scope.scene ?? undefined));

  const things = $derived.by((): readonly Named[] | null => {
    switch (slot.kind) {
      case 'layer':
        return scope.layers;
      case 'stateful':
        return scope.stateful;
      case 'playable':
        return scope.playable;
      case 'variable':
        return scope.variables;
      case 'state':
        return scope.statesOf(of);
      case 'label':
        return scope.labelsOf(of);
      default:
        return null;
    }
  });
  const frames = $derived.by(() => {
    if (!session) return [];
    const owner = layer === null ? null : (session.piece.layers.get(layer) ?? null);
    return likelyFrames(session.piece, owner, owner?.scene ?? session.sceneId, scope.frames as Scene[]);
  });
  const targets = $derived([
    ...frames.map((frame) => ({ value: { to: 'frame', frame: frame.id } as Target, label: frame.name, hint: frame.draft ? 'draft' : '' })),
    ...PLACES.map((to) => ({ value: { to } as Target, label: to, hint: 'place' })),
  ]);
  const isLost = $derived(text.startsWith('?'));
  const words = $derived(isLost ? (text === '?' ? 'not chosen yet' : 'missing') : text.replace(/^"(.*)"$/, '$1'));
  const note = $derived(alike ? 'the same as another thread here' : undefined);
  const tone = $derived(
    isLost ? 'chip-brick' : slot.kind === 'variable' || slot.kind === 'state' || slot.kind === 'label' ? 'chip-teal' : 'chip-gold'
  );

  /** What an expression here has to give: what the variable that it sets is, else a number. */
  const wantedType = $derived.by(() => {
    const variable = fieldAt(whole, 'variable');
    return typeof variable === 'string' && session ? variableType(session.piece, variable) : 'number';
  });

  function write(event: Event) {
    const written = (event.currentTarget as HTMLInputElement).value;
    if (slot.kind === 'number' || slot.kind === 'duration' || slot.kind === 'percent') {
      const number = Number(written);
      if (Number.isFinite(number)) onchange(slot.kind === 'percent' ? number / 100 : slot.kind === 'duration' ? Math.max(1, number) : number);
    } else if (written.trim() || slot.kind === 'address') onchange(written.trim());
  }
  const shown = $derived(slot.kind === 'percent' ? String(Math.round(Number(value) * 100)) : String(value ?? ''));
  const wide = $derived(Math.max(4, Math.min(26, shown.length + 1)));
  const labels: Partial<Record<Slot['kind'], string>> = {
    target: 'Leads to',
    frame: 'Frame',
    layer: 'Layer',
    stateful: 'Of',
    playable: 'Of',
    variable: 'Variable',
    state: 'State',
    label: 'Label',
  };
</script>

{#if slot.kind === 'target'}
  <ChipMenu name="Leads to" label={words} {tone} {note} options={targets} filter onpick={onchange} />
{:else if slot.kind === 'frame'}
  <ChipMenu
    name="Frame"
    label={words}
    {tone}
    {note}
    options={frames.map((frame) => ({ value: frame.id, label: frame.name }))}
    filter
    onpick={onchange}
  />
{:else if things}
  <ChipMenu
    name={labels[slot.kind] ?? slot.kind}
    label={words}
    {tone}
    {note}
    options={things.map((thing) => ({ value: thing.id, label: thing.name }))}
    filter
    onpick={onchange}
  />
{:else if slot.kind === 'words'}
  <ChipMenu
    name="Which"
    label={text}
    options={Object.entries(slot.words ?? {}).map(([label, meant]) => ({ value: meant, label }))}
    onpick={onchange}
  />
{:else if slot.kind === 'transition'}
  <TransitionChip transition={value as Transition} within={['state', 'show'].includes((whole as { do?: string }).do ?? '')} {onchange} />
{:else if slot.kind === 'timing'}
  <TransitionChip
    transition={value ? { type: 'tween', ...(value as Timing) } : { type: 'cut' }}
    only={['cut', 'tween']}
    onchange={(transition) => {
      const { type, ...timing } = transition;
      onchange(type === 'cut' ? undefined : timing);
    }}
  />
{:else if slot.kind === 'expression'}
  <ExpressionField value={String(value ?? '')} {scope} {onchange} wanted={wantedType} />
{:else}
  <input
    class="field h-[22px] !px-1.5 {alike ? '!border-dashed !border-[var(--gold-text)]' : ''}"
    title={note}
    style:width="calc({wide}ch + 12px)"
    value={shown}
    aria-label="{slot.kind === 'address' ? 'Address' : slot.path}{alike ? `, ${note}` : ''}"
    spellcheck="false"
    onkeydown={fieldKey}
    onchange={write}
  />{#if slot.kind === 'duration'}<span class="soft">ms</span>{:else if slot.kind === 'percent'}<span class="soft">%</span>{/if}
{/if}
