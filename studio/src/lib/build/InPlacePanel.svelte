<script lang="ts">
  import { count, likenessesOf, standIn, type Likeness } from '@zany/core';
  import { newId } from '$lib/client/ids';
  import type { EditorSession } from '$lib/client/session.svelte';
  import { flipped } from '$lib/shared/flipped';
  import { takeFocus } from '$lib/shared/focus';

  /** Layers elsewhere that are as those of the part of the selected placement: the part takes their place, filled in with what is theirs. */
  let { session }: { session: EditorSession } = $props();

  const part = $derived(session.plain.piece.layers.get(session.selection[0] ?? '')?.part);
  const name = $derived(session.plain.piece.scenes.get(part ?? '')?.name ?? '');
  const found = $derived(part === undefined ? [] : likenessesOf(session.plain, part));
  const keyOf = ({ names }: Likeness) => [...names.keys()][0]!;
  /** With some frames chosen in the shelf those alone are asked for. */
  // svelte-ignore state_referenced_locally
  const only = session.frameSelection.length > 1 ? new Set(session.frameSelection) : null;
  /** Those that were left out, by their first layers. */
  // svelte-ignore state_referenced_locally
  let left: ReadonlySet<string> = $state.raw(new Set(found.flatMap((one) => (only && !only.has(one.scene) ? keyOf(one) : []))));
  const chosen = $derived(found.filter((one) => !left.has(keyOf(one))));

  /** Where it is, and what the part is filled in with there. */
  const sceneOf = ({ scene }: Likeness) => session.plain.piece.scenes.get(scene)?.name ?? '';
  const fillsOf = ({ fills }: Likeness) =>
    Object.entries(fills)
      .map(([inner, { text, asset }]) => {
        const of = session.plain.piece.layers.get(inner)?.name ?? '';
        return `${of}: ${text ?? session.plain.piece.assets.get(asset ?? '')?.name ?? ''}`;
      })
      .join(', ') || 'as it is';

  const close = () => (session.panel = null);

  function apply(): void {
    if (part !== undefined && session.edit(`Put ${name} in place of what is like it`, standIn(session.plain, part, chosen, newId), 'plain')) close();
  }
</script>

<div class="flex min-h-0 flex-1 flex-col gap-2.5" role="dialog" aria-label="In place of what is like it">
  <h3 class="text-[15px]">{name} in place of what is like it</h3>
  {#if found.length === 0}
    <p class="soft">
      Nowhere else do layers stand so to each other, look so and do the same. Words and pictures may be others; names may end in another number.
    </p>
    <button class="act act-plain self-start" onclick={close} use:takeFocus>Close</button>
  {:else}
    <p class="soft">
      The same layers stand in {count(found.length, 'other place')}. The part takes their place, with the words and pictures that are there. What is
      changed in the part is changed in all of them then.
    </p>
    <ul class="scroll flex min-h-0 flex-col gap-1" aria-label="Where it is put">
      {#each found as one (keyOf(one))}
        <li>
          <label class="flex items-baseline gap-2"
            ><input
              type="checkbox"
              class="checkbox checkbox-xs translate-y-0.5"
              checked={!left.has(keyOf(one))}
              onchange={() => (left = flipped(left, keyOf(one)))}
            /><span class="flex min-w-0 flex-col"
              ><span class="truncate">{sceneOf(one)}</span><span class="soft truncate text-[12px]">{fillsOf(one)}</span></span
            ></label
          >
        </li>
      {/each}
    </ul>
    <div class="flex gap-2">
      <button class="act act-go" disabled={chosen.length === 0} onclick={apply} use:takeFocus>Put it in {count(chosen.length, 'place')}</button>
      <button class="act act-plain" onclick={close}>Not now</button>
    </div>
  {/if}
</div>
