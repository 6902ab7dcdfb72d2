<script lang="ts">
  import {
    addCue,
    CUE_WORDS,
    clearSpans,
    keyTimesOf,
    presets,
    properties,
    sectionAt,
    sectionName,
    setKey,
    setSpan,
    trackOf,
    trackValue,
    type Item,
    type Timeline,
    isMediaLayer,
  } from '@zany/core';
  import { setLayer } from '$lib/build/acts';
  import { REENTRY, setReentry } from '$lib/build/reentry';
  import { newId } from '$lib/client/ids';
  import { outlineIn } from '$lib/client/outline-in';
  import ChipMenu from '$lib/shared/ChipMenu.svelte';
  import type { Seam } from './seam-state.svelte';

  /** What selected layers can be given in time: keys, spans, ways to come and go. */
  let { seam, timeline, moment }: { seam: Seam; timeline: Timeline; moment: number } = $props();

  const session = $derived(seam.session);
  const here = $derived(sectionAt(timeline, moment));
  const chosen = $derived(session.selection.flatMap((id) => session.scene?.byId.get(id)?.layer ?? []));
  /** Selected layers that keyframes carry somewhere. */
  const turning = $derived(chosen.filter((layer) => keyTimesOf(timeline, layer.id, ['x', 'y']).length > 1));

  /** Selected placements of parts with a time of their own. */
  const clips = $derived(
    session.selection.filter((id) => session.program.scenes.get(session.scene?.byId.get(id)?.layer.part ?? '')?.scene.timeline !== undefined)
  );
  /** The layer whose outline can become another's, and those others. */
  const drawn = $derived(chosen.length === 1 && chosen[0]!.path !== undefined ? chosen[0]! : null);
  const others = $derived(drawn ? (session.scene?.items ?? []).filter(({ layer }) => layer.path !== undefined && layer.id !== drawn.id) : []);
  /** What the selected layers can have keys of. */
  const keyable = $derived(properties.filter(({ suits }) => !suits || chosen.some(suits)));
  /** Selected layers that can be played: parts with a time of their own, videos, sounds. */
  const playable = $derived([...clips, ...chosen.flatMap(({ id, type }) => (isMediaLayer({ type }) ? [id] : []))]);
  const additions = $derived([
    { value: () => seam.addKeys(['x', 'y']), label: 'place', hint: 'K' },
    ...keyable.map(({ name, words }) => ({ value: () => seam.addKeys([name]), label: words, hint: '' })),
    {
      value: () => seam.edit('Only in this section', (now) => setSpan(now, session.selection, here!.from, here!.to, newId)),
      label: `only in ${here?.label ? sectionName(timeline, here) : 'this section'}`,
      hint: 'span',
    },
    {
      value: () => seam.edit('There from here on', (now) => setSpan(now, session.selection, moment, now.length - 1, newId)),
      label: 'there from here on',
      hint: 'span',
    },
    {
      value: () => seam.edit('There up to here', (now) => setSpan(now, session.selection, 0, moment, newId)),
      label: 'there up to here',
      hint: 'span',
    },
    { value: () => seam.edit('Always there', (now) => clearSpans(now, session.selection)), label: 'always there', hint: 'no span' },
    ...(playable.length
      ? (['play', 'pause', 'start over'] as const).map((what) => ({
          value: () => seam.edit(`Here it ${CUE_WORDS[what]}`, (now) => addCue(now, playable, moment, what, newId)),
          label: `${what === 'play' ? 'play on' : what} here`,
          hint: 'cue',
        }))
      : []),
    ...(clips.length
      ? REENTRY.map(({ value, label, hint }) => ({ value: () => void setReentry(session, clips, value), label: `on return: ${label}`, hint }))
      : []),
    ...presets
      .filter(({ suits = () => true }) => chosen.some(suits))
      .map((preset) => ({ value: () => seam.put(preset, chosen.filter(preset.suits ?? (() => true))), label: preset.label, hint: 'from here' })),
    ...others.map((other) => ({
      value: () => seam.edit(`Outline of ${other.layer.name}`, (now) => outlineFrom(now, other)),
      label: `outline of ${other.layer.name}`,
      hint: 'from here',
    })),
    ...(turning.length
      ? [
          {
            value: () => turnAlong(turning.some((layer) => !layer.turnsAlong)),
            label: turning.every((layer) => layer.turnsAlong) ? 'no longer turned along its way' : 'turned along its way',
            hint: '',
          },
        ]
      : []),
  ]);

  /** Another outline at this moment; the section keeps the one it begins with. */
  function outlineFrom(now: Timeline, other: Item): Timeline {
    const { id } = drawn!;
    const { box } = session.scene!.byId.get(id)!;
    const track = trackOf(now, id, 'path')?.[1];
    const begins = here?.from ?? 0;
    const isFirst = keyTimesOf(now, id, ['path']).every((time) => time < begins || time > moment);
    const held =
      moment > begins && isFirst ? setKey(now, newId(), id, 'path', { time: begins, value: track ? trackValue(track, begins) : drawn!.path! }) : now;
    return setKey(held, newId(), id, 'path', { time: moment, value: outlineIn(box, other.layer.path!, other.box) });
  }

  let menu: ReturnType<typeof ChipMenu> | undefined = $state();
  export const open = (): void => menu?.show();

  function turnAlong(on: boolean) {
    const ids = turning.map(({ id }) => id);
    setLayer(session, ids, on ? 'Turned along its way' : 'Not turned along its way', ['turnsAlong'], on || undefined);
  }
</script>

<ChipMenu bind:this={menu} name="Add in time" label="+ key, span, motion" tone="chip-gold" options={additions} filter onpick={(add) => add()} />
