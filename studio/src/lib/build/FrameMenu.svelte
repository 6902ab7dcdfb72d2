<script lang="ts">
  import type { EditorSession } from '$lib/client/session.svelte';
  import { copyFrame, kindsFor, removeFrames, setBundle, setFrame, setKind, startHere, toggleEnding } from './acts';
  import Popover from '$lib/shared/Popover.svelte';

  /** What can be done with frames, on the shelf and on the map. */
  interface Props {
    session: EditorSession;
    id: string;
    anchor: HTMLElement;
    /** Opens it at the Build desk, where it is not open there. */
    onopen?: (id: string) => void;
    /** Renames it in its place; without, it is renamed here. */
    onrename?: (id: string) => void;
    onclose: () => void;
  }
  let { session, id: asked, anchor, onopen, onrename, onclose }: Props = $props();

  /** It is closed before the last of what it does. */
  // svelte-ignore state_referenced_locally
  const id = asked;

  const scene = $derived(session.piece.scenes.get(id));
  const chosen = $derived(session.frameSelection.includes(id) ? session.frameSelection : [id]);
  const many = $derived(chosen.length > 1 ? ` ${chosen.length} frames` : '');
  const kinds = $derived(kindsFor(session));
  const bundles = $derived(Object.values(session.piece.head.bundles ?? {}));
  let bundle = $state('');

  const act = (run: () => void) => () => {
    run();
    onclose();
  };
</script>

{#if scene}
  <Popover {anchor} label={scene.name} {onclose} width={230}>
    {#if session.canEdit && onrename}
      <button class="menu-row" onclick={act(() => onrename(id))}>Rename</button>
    {:else if session.canEdit}
      <input
        class="field mb-1 h-7 w-full !px-1.5"
        value={scene.name}
        maxlength="110"
        aria-label="Name of the frame"
        onfocus={(event) => event.currentTarget.select()}
        onkeydown={(event) => event.key === 'Enter' && (event.currentTarget.blur(), onclose())}
        onchange={(event) => {
          const name = event.currentTarget.value.trim();
          if (name) setFrame(session, id, `Rename ${scene.name}`, 'name', name);
        }}
      />
    {/if}
    {#if onopen}<button class="menu-row" onclick={act(() => onopen(id))}>Open at the Build desk</button>{/if}
    {#if session.canEdit}
      <button class="menu-row" onclick={act(() => copyFrame(session))}>Duplicate{many}</button>
      <button class="menu-row" onclick={act(() => startHere(session, id))}>Start here</button>
      <button class="menu-row" onclick={act(() => toggleEnding(session, scene))}>{scene.ending ? 'No ending any more' : 'Mark as an ending'}</button>
      <button
        class="menu-row"
        onclick={act(() => setFrame(session, id, scene.draft ? 'No draft' : 'Mark as a draft', 'draft', scene.draft ? undefined : true))}
        >{scene.draft ? 'No draft any more' : 'Mark as a draft'}</button
      >
      <div class="flex flex-wrap gap-1 px-1.5 py-1" role="group" aria-label="Kind">
        {#each kinds as kind (kind.name)}
          <button class="chip" onclick={act(() => setKind(session, chosen, kind.name))}
            ><span style:color={kind.color}>{kind.mark}</span>{kind.name}</button
          >
        {/each}
        {#if scene.kind !== undefined}<button class="chip chip-ghost" onclick={act(() => setKind(session, chosen, null))}>no kind</button>{/if}
      </div>
      <form
        class="flex items-center gap-1 px-1.5 py-1"
        onsubmit={(event) => {
          event.preventDefault();
          setBundle(session, chosen, bundle.trim() || null);
          onclose();
        }}
      >
        <input
          class="field h-[24px] min-w-0 flex-1 !px-1.5"
          placeholder={session.piece.head.bundles?.[scene.bundle ?? '']?.name ?? 'a bundle'}
          aria-label="Bundle"
          maxlength="110"
          list="bundles-of-the-piece"
          bind:value={bundle}
        />
        <datalist id="bundles-of-the-piece">
          {#each bundles as { name } (name)}<option value={name}></option>{/each}
        </datalist>
        <button class="chip">bundle{many}</button>
      </form>
      {#if scene.bundle !== undefined}<button class="menu-row" onclick={act(() => setBundle(session, chosen, null))}>Out of the bundle</button>{/if}
      <button class="menu-row text-[var(--brick-text)]" onclick={act(() => removeFrames(session))}>Delete{many}</button>
    {/if}
  </Popover>
{/if}
