<script lang="ts">
  import {
    addLabel,
    copySection,
    count,
    cutTime,
    endingWords,
    holdMoment,
    keysIn,
    mirrorKeys,
    moveSection,
    removeLabel,
    removeSection,
    resizeSection,
    secondsWords,
    sectionsOf,
    setEnding,
    setLabel,
    type Ending,
    type Resizing,
    type Section,
    type Timeline,
  } from '@zany/core';
  import { newId } from '$lib/client/ids';
  import ChipMenu from '$lib/shared/ChipMenu.svelte';
  import Popover from '$lib/shared/Popover.svelte';
  import NumberField from '$lib/build/NumberField.svelte';
  import RenameField from '$lib/shared/RenameField.svelte';
  import { SIGNED, SIGNS, WIDE } from './seam-drawing';
  import type { Seam } from './seam-state.svelte';

  /** The sections of the seam as panels: a tag to take each by, its ending in a word, its edge to pull. */
  let { seam, timeline, perFrame }: { seam: Seam; timeline: Timeline; perFrame: number } = $props();

  const sections = $derived(sectionsOf(timeline));
  const canEdit = $derived(seam.session.canEdit);
  let renaming: string | null = $state(null);
  let menu: { label: string; anchor: HTMLElement } | null = $state(null);
  /** While a tag is dragged: before which section it would be put; null is the end. */
  let dropsBefore: string | null | undefined = $state(undefined);

  const nameOf = (section: Section) => (section.label === null ? '' : (timeline.labels?.[section.label]?.name ?? ''));

  const endings = $derived([
    { value: { do: 'hold' } as Ending, label: 'holds', hint: 'stays at its last frame' },
    { value: { do: 'loop' } as Ending, label: 'loops', hint: 'begins again' },
    { value: { do: 'loop', times: 3 } as Ending, label: 'loops 3 times', hint: 'then holds' },
    { value: { do: 'go on' } as Ending, label: 'goes on', hint: 'into what follows' },
    ...Object.entries(timeline.labels ?? {}).map(([id, { name }]) => ({
      value: { do: 'go to', label: id } as Ending,
      label: `goes to ${name}`,
      hint: '',
    })),
  ]);

  /** Follows the pointer along the seam: so many frames from where it was pressed. */
  function follow(
    event: PointerEvent,
    ways: {
      says?: (by: number, now: Timeline) => string;
      move: (by: number, event: PointerEvent) => void;
      done: (by: number, event: PointerEvent) => void;
    }
  ) {
    if (event.button !== 0 || !canEdit) return;
    event.preventDefault();
    event.stopPropagation();
    seam.follow(event, perFrame, { settle: Math.round, ...ways });
  }

  /** `Ebb: 56 frames, 2.33 s`. */
  function lengthWords({ label }: Section, now: Timeline): string {
    const section = sectionsOf(now).find((one) => one.label === label);
    const frames = section ? section.to - section.from + 1 : 0;
    return `${label === null ? '' : `${now.labels?.[label]?.name}: `}${count(frames, 'frame')}, ${secondsWords(frames, seam.fps)}`;
  }

  const howOf = (event: PointerEvent): Resizing => (event.altKey ? 'eat' : event.shiftKey ? 'stretch' : 'push');

  function pull(event: PointerEvent, section: Section) {
    const length = section.to - section.from + 1;
    const change = (by: number, next: PointerEvent) => (now: Timeline) => resizeSection(now, section.label, Math.max(1, length + by), howOf(next));
    follow(event, {
      says: (_by, now) => lengthWords(section, now),
      move: (by, next) => seam.preview(change(by, next)),
      done: (by, next) => {
        seam.preview(null);
        if (by) seam.edit(`Length of ${nameOf(section) || 'the beginning'}`, change(by, next));
      },
    });
  }

  function drag(event: PointerEvent, section: Section) {
    const { label } = section;
    if (label === null) return;
    const placeAt = (by: number): string | null | undefined => {
      if (Math.abs(by) * perFrame < 6) return undefined;
      const middle = (section.from + section.to) / 2 + by;
      const others = sections.filter((one) => one.label !== null && one.label !== label);
      return others.find((one) => (one.from + one.to) / 2 > middle)?.label ?? null;
    };
    follow(event, {
      move: (by) => (dropsBefore = placeAt(by)),
      done: (by) => {
        const before = placeAt(by);
        dropsBefore = undefined;
        if (before === undefined) return seam.stand(section.from);
        seam.edit(`Move ${nameOf(section)}`, (now) => moveSection(now, label, before));
      },
    });
  }

  function key(event: KeyboardEvent, section: Section) {
    const { label } = section;
    if (label === null || !canEdit) return;
    const at = sections.findIndex((one) => one.label === label);
    if (event.key === 'F2' || event.key === 'Enter') renaming = label;
    else if (event.key === 'Delete' || event.key === 'Backspace') seam.edit(`Remove the label ${nameOf(section)}`, (now) => removeLabel(now, label));
    else if (event.altKey && event.key === 'ArrowRight')
      seam.edit(`Move ${nameOf(section)}`, (now) => moveSection(now, label, sections[at + 2]?.label ?? null));
    else if (event.altKey && event.key === 'ArrowLeft' && sections[at - 1]?.label)
      seam.edit(`Move ${nameOf(section)}`, (now) => moveSection(now, label, sections[at - 1]!.label));
    else if (event.key === '+' || event.key === '-')
      seam.edit(`Length of ${nameOf(section)}`, (now) =>
        resizeSection(now, label, Math.max(1, section.to - section.from + 1 + (event.key === '+' ? 1 : -1)), 'push')
      );
    else if (event.key === ' ' || event.key === 'ArrowDown') menu = { label, anchor: event.currentTarget as HTMLElement };
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  const moment = $derived(seam.session.moment ?? 0);

  const stretch = (section: Section, factor: number, words: string) =>
    seam.edit(`${nameOf(section)}: ${words.toLowerCase()}`, (now) =>
      resizeSection(now, section.label, Math.max(1, Math.round((section.to - section.from + 1) * factor)), 'stretch')
    );

  /** The last of its keys first: what happens in it happens the other way round. */
  function turnRound({ from, to, ...section }: Section) {
    const keys = keysIn(timeline, (_track, time) => time >= from && time <= to);
    if (keys.length)
      seam.edit(`Turn ${section.label === null ? 'it' : (timeline.labels?.[section.label]?.name ?? '')} round`, (now) => mirrorKeys(now, keys));
  }

  export function label(at: number) {
    const id = newId();
    if (seam.edit('New label', (now) => addLabel(now, id, 'Section', at))) renaming = seam.timeline?.labels?.[id] ? id : null;
  }
</script>

<div class="relative h-[26px]" role="list" aria-label="Sections">
  {#each sections as section, i (section.label ?? '')}
    {@const left = section.from * perFrame}
    {@const width = (section.to - section.from + 1) * perFrame}
    <div
      class="absolute top-0 flex h-full items-center gap-1 overflow-hidden border-r border-[var(--line)] {i % 2
        ? 'bg-[color-mix(in_srgb,var(--gold-wash)_70%,transparent)]'
        : 'bg-[color-mix(in_srgb,var(--teal-wash)_55%,transparent)]'} {seam.isPulled ? 'opacity-0' : ''}"
      style:left="{left}px"
      style:width="{width}px"
      role="listitem"
      data-section={section.label ?? ''}
    >
      {#if section.label !== null}
        {#if renaming === section.label}
          <RenameField
            name={nameOf(section)}
            label="Name of the section"
            class="h-[20px] w-[110px] !px-1"
            onname={(name) => seam.edit(`Rename ${nameOf(section)}`, (now) => setLabel(now, section.label!, { name }))}
            onclose={() => (renaming = null)}
          />
        {:else}
          <button
            class="ml-0.5 h-[20px] max-w-full shrink truncate rounded-[3px] rounded-r-[9px] border border-[var(--line)] bg-[var(--sheet)] px-1.5 text-[12px] font-semibold"
            title="{nameOf(section)} · drag to move it, double-click to rename"
            aria-label="Section {nameOf(section)}, {section.to - section.from + 1} frames, {endingWords(timeline, section)}"
            onpointerdown={(event) => drag(event, section)}
            ondblclick={() => canEdit && (renaming = section.label)}
            onkeydown={(event) => key(event, section)}
            oncontextmenu={(event) => {
              event.preventDefault();
              if (canEdit) menu = { label: section.label!, anchor: event.currentTarget };
            }}>{nameOf(section)}</button
          >
        {/if}
      {/if}
      <span class="flex-1"></span>
      {#if width > SIGNED}
        {#if section.label !== null && canEdit}
          <ChipMenu
            name="Ending of {nameOf(section)}{width > WIDE ? '' : `, ${endingWords(timeline, section)}`}"
            label={width > WIDE ? endingWords(timeline, section) : SIGNS[section.ending.do]}
            tone="chip-ghost"
            options={endings}
            onpick={(ending) => seam.edit(`${nameOf(section)} ${endingWords(timeline, { ending })}`, (now) => setEnding(now, section.label!, ending))}
          />
        {:else}<span class="soft whitespace-nowrap text-[12px]" title={endingWords(timeline, section)}
            >{width > WIDE ? endingWords(timeline, section) : SIGNS[section.ending.do]}</span
          >{/if}
      {/if}
      {#if canEdit}
        <!-- svelte-ignore a11y_no_static_element_interactions -->
        <span
          class="h-full w-[7px] shrink-0 cursor-ew-resize border-r-2 border-[var(--gold)] hover:bg-[var(--gold)]"
          title="Longer or shorter: what follows moves along. Alt: takes from the next one. Shift: stretches what is in it"
          data-edge={section.label ?? ''}
          onpointerdown={(event) => pull(event, section)}
        ></span>
      {/if}
    </div>
    {#if dropsBefore !== undefined && (dropsBefore === section.label || (dropsBefore === null && i === sections.length - 1))}
      <span
        class="pointer-events-none absolute top-0 z-10 h-full w-[3px] bg-[var(--gold)]"
        style:left="{(dropsBefore === null ? section.to + 1 : section.from) * perFrame - 1}px"
      ></span>
    {/if}
  {/each}
</div>

{#if menu}
  {@const { label: id } = menu}
  <Popover anchor={menu.anchor} label="More about the section" width={230} onclose={() => (menu = null)}>
    <button class="menu-row" onclick={() => ((renaming = id), (menu = null))}>Rename</button>
    <button class="menu-row" onclick={() => (seam.edit('Copy the section', (now) => copySection(now, id, newId)), (menu = null))}
      >Copy it behind itself</button
    >
    {#each endings as ending (ending.label)}
      <button class="menu-row" onclick={() => (seam.edit(`Ending: ${ending.label}`, (now) => setEnding(now, id, ending.value)), (menu = null))}
        ><span class="flex-1">{ending.label}</span><span class="soft text-[12px]">{ending.hint}</span></button
      >
    {/each}
    {@const ending = timeline.labels?.[id]?.ending}
    {#if ending?.do === 'loop'}<label class="menu-row"
        ><span class="flex-1">rounds, then it holds</span><NumberField
          value={ending.times}
          label="Rounds"
          min={2}
          max={1000}
          step={1}
          width={52}
          onset={(times) => seam.edit(times ? `Loops ${times} times` : 'Loops', (now) => setEnding(now, id, { do: 'loop', ...(times && { times }) }))}
        /></label
      >{/if}
    {@const section = sections.find((one) => one.label === id)}
    {#if section}
      <label class="menu-row" title="What follows moves along"
        ><span class="flex-1">frames long</span><NumberField
          value={section.to - section.from + 1}
          label="Frames of the section"
          min={1}
          max={100000}
          step={1}
          width={52}
          onset={(frames) => frames && seam.edit(`Length of ${nameOf(section)}`, (now) => resizeSection(now, id, frames, 'push'))}
        /></label
      >
      {#each [['Twice as fast', 0.5], ['Half as fast', 2]] as const as [words, factor] (words)}
        <button class="menu-row" onclick={() => (stretch(section, factor, words), (menu = null))}>{words}</button>
      {/each}
      <button class="menu-row" onclick={() => (turnRound(section), (menu = null))}>Turn it round in time</button>
    {/if}
    <label class="menu-row" title="Everything after the playhead comes later"
      ><span class="flex-1">hold this moment, frames</span><NumberField
        value={undefined}
        empty=""
        label="Hold this moment, frames"
        min={1}
        max={100000}
        width={52}
        onset={(frames) => frames && seam.edit(`Hold this moment for ${frames} frames`, (now) => holdMoment(now, moment, frames))}
      /></label
    >
    <label class="menu-row" title="Everything after comes sooner"
      ><span class="flex-1">cut from here, frames</span><NumberField
        value={undefined}
        empty=""
        label="Cut from here, frames"
        min={1}
        max={100000}
        width={52}
        onset={(frames) => frames && seam.edit(`Cut ${frames} frames`, (now) => cutTime(now, moment, frames))}
      /></label
    >
    <button class="menu-row" onclick={() => (seam.edit('Remove the label', (now) => removeLabel(now, id)), (menu = null))}
      >Remove the label, keep what is in it</button
    >
    <button
      class="menu-row text-[var(--brick-text)]"
      onclick={() => (seam.edit('Remove the section', (now) => removeSection(now, id)), (menu = null))}>Remove it with all in it</button
    >
  </Popover>
{/if}
