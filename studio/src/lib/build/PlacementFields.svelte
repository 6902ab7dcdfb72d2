<script lang="ts">
  import {
    displayText,
    expressionScope,
    framesPerSecond,
    partHolds,
    replacePart,
    scenesOf,
    secondsWords,
    statesOf,
    storeText,
    takesText,
    type Layer,
  } from '@zany/core';
  import ChipMenu from '$lib/shared/ChipMenu.svelte';
  import type { EditorSession } from '$lib/client/session.svelte';
  import { uploadPictures } from '$lib/client/pictures';
  import { fieldKey } from '$lib/shared/focus';
  import { setLayer } from './acts';
  import { REENTRY, reentryOf, setReentry } from './reentry';

  /** What a placement fills into its part, the state it begins in, and the part itself. */
  let { session, layer }: { session: EditorSession; layer: Layer } = $props();

  const part = $derived(session.program.scenes.get(layer.part ?? ''));
  const states = $derived(part ? statesOf(part.scene) : []);
  const state = $derived(states.find((one) => one.id === layer.state));
  const fields = $derived((part?.items ?? []).filter(({ layer: inner }) => takesText(inner) || inner.type === 'picture').reverse());
  const others = $derived(scenesOf(session.piece, 'part').filter((one) => !partHolds(session.piece, one.id, layer.scene)));

  const beginIn = (next: string | undefined) =>
    setLayer(session, [layer.id], `Begin in ${part?.scene.states?.[next ?? '']?.name ?? 'its first state'}`, ['state'], next);

  function fill(inner: Layer, text: string) {
    const stored = storeText(text, expressionScope(session.piece, layer.scene)).text;
    const value = stored === inner.text ? undefined : stored;
    const left = Object.keys(layer.fills ?? {}).length - (layer.fills?.[inner.id] ? 1 : 0);
    session.edit(
      `Fill ${inner.name}`,
      [
        value === undefined && left === 0
          ? { op: 'set', table: 'layers', id: layer.id, path: ['fills'] }
          : { op: 'set', table: 'layers', id: layer.id, path: ['fills', inner.id], ...(value !== undefined && { value: { text: value } }) },
      ],
      'plain'
    );
  }

  async function fillPicture(inner: Layer, event: Event) {
    const [file] = (event.currentTarget as HTMLInputElement).files ?? [];
    if (!file) return;
    const { taken, problems } = await uploadPictures(session.id, [file], () => undefined);
    session.refuse(problems);
    const asset = taken[0]?.asset;
    if (!asset) return;
    session.edit(
      `Fill ${inner.name}`,
      [
        ...(session.piece.assets.has(asset.id) ? [] : [{ op: 'put' as const, table: 'assets' as const, value: asset }]),
        { op: 'set', table: 'layers', id: layer.id, path: ['fills', inner.id], value: { asset: asset.id } },
      ],
      'plain'
    );
  }
</script>

{#if part}
  <div class="my-1 flex flex-col gap-1" role="group" aria-label="Fields of {layer.name}">
    <div class="flex flex-wrap items-center gap-1">
      <span class="soft">shows</span>
      <ChipMenu
        name="Part"
        label={part.scene.name}
        options={others.map((one) => ({ value: one.id, label: one.name }))}
        filter
        onpick={(next) => session.edit(`Replace ${part!.scene.name}`, replacePart(session.piece, layer.id, next), 'plain')}
      />
      {#if states.length}
        <span class="soft">in</span>
        {#if states.length <= 4}
          {#each states as one, i (one.id)}
            <button
              class="chip {(layer.state ?? states[0]?.id) === one.id ? 'chip-teal' : 'chip-ghost'}"
              aria-pressed={(layer.state ?? states[0]?.id) === one.id}
              aria-label="In {one.name}"
              onclick={() => beginIn(i === 0 && session.isFirstState ? undefined : one.id)}>{one.name}</button
            >
          {/each}
        {:else}
          <ChipMenu
            name="State"
            label={state?.name ?? 'its first state'}
            tone="chip-teal"
            options={states.map((one) => ({ value: one.id, label: one.name }))}
            onpick={beginIn}
          />
        {/if}
      {/if}
      <button class="chip chip-ghost" onclick={() => session.enterScene(part!.scene.id)}>go in</button>
      {#if fields.length}<button class="chip chip-ghost" title="A row of a table for each placement" onclick={() => (session.panel = 'rows')}
          >from rows</button
        >{/if}
    </div>
    {#each fields as { layer: inner } (inner.id)}
      <label class="flex items-center gap-1.5">
        <span class="soft w-20 shrink-0 truncate" title={inner.name}>{inner.name}</span>
        {#if inner.text !== undefined}
          <input
            class="field h-[22px] min-w-0 flex-1 !px-1.5"
            value={displayText(layer.fills?.[inner.id]?.text ?? inner.text, expressionScope(session.piece, layer.scene))}
            aria-label="{inner.name} of {layer.name}"
            onkeydown={fieldKey}
            onchange={(event) => fill(inner, event.currentTarget.value)}
          />
        {:else}
          <span class="chip chip-ghost relative"
            >{layer.fills?.[inner.id]?.asset ? 'own picture' : 'the part’s picture'}<input
              class="absolute inset-0 h-full w-full cursor-pointer opacity-0"
              type="file"
              accept="image/png,image/jpeg,image/webp,image/svg+xml"
              aria-label="{inner.name} of {layer.name}"
              onchange={(event) => fillPicture(inner, event)}
            /></span
          >
        {/if}
      </label>
    {/each}
    {#if part.scene.timeline}
      <div class="flex flex-wrap items-center gap-1">
        <span class="soft">plays {secondsWords(part.scene.timeline.length, framesPerSecond(session))}; when it comes again:</span>
        <ChipMenu name="On return" label={reentryOf(layer).label} options={REENTRY} onpick={(value) => setReentry(session, [layer.id], value)} />
      </div>
    {/if}
  </div>
{/if}
