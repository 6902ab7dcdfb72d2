<script lang="ts">
  import { count, eventWords, keepWalkAnew, removeWalk, renameWalk, stepsOf, walkKept, walksOf, type KeptWalk, type RunEvent } from '@zany/core';
  import { useSession } from '$lib/shared/desk.svelte';
  import RenameField from '$lib/shared/RenameField.svelte';

  interface Props {
    /** The walk that is being shown just now. */
    showing: string;
    onwalk: (id: string, from: string, events: readonly RunEvent[]) => void;
  }
  let { showing, onwalk }: Props = $props();

  const session = useSession();
  let renaming: string | null = $state(null);
  const walks = $derived(walksOf(session.piece.head).map((walk) => ({ ...walk, came: walkKept(session.program, walk) })));

  const eventsOf = ({ steps }: KeptWalk) => steps.map(({ event }) => event);

  function keepAnew(walk: KeptWalk & { id: string }) {
    const steps = stepsOf(session.program, walk.from, eventsOf(walk));
    if (steps) session.edit(`Keep ${walk.name} as it is now`, keepWalkAnew(session.piece, walk.id, steps));
  }
</script>

{#if walks.length}
  <section class="border-t border-[var(--line)]" aria-label="Kept walks">
    <h3 class="bg-[var(--rim)] px-3.5 py-1 text-[12px]">kept walks <span class="soft">{walks.length}</span></h3>
    {#each walks as walk (walk.id)}
      {@const { broken, held } = walk.came}
      <article class="border-t border-[var(--line)] px-3.5 py-2" aria-label="The walk {walk.name}">
        <div class="flex items-baseline gap-2">
          <span class="w-3 shrink-0 text-center font-bold {broken ? 'text-[var(--brick)]' : 'text-[var(--teal)]'}">{broken ? '✕' : '✓'}</span>
          {#if renaming === walk.id}
            <RenameField
              name={walk.name}
              label="Name of the walk"
              class="h-[22px] flex-1 !px-1"
              onname={(name) => session.edit('Rename a walk', renameWalk(session.piece, walk.id, name))}
              onclose={() => (renaming = null)}
            />
          {:else}
            <span class="min-w-0 truncate font-semibold">{walk.name}</span>
          {/if}
          <span class="soft shrink-0">{count(walk.steps.length, 'step')}</span>
        </div>
        <p class="pl-5 {broken ? 'text-[var(--brick-text)]' : 'soft'}">
          {#if broken}Step {held + 1}, {eventWords(session.program, walk.steps[held]!.event as RunEvent)}: {broken}.{:else}Every step leads where it
            led.{/if}
        </p>
        <div class="mt-1 flex flex-wrap gap-1.5 pl-5">
          <button class="chip" onclick={() => onwalk(walk.id, walk.from, eventsOf(walk) as RunEvent[])}
            >{showing === walk.id ? 'walking…' : 'Walk it'}</button
          >
          {#if session.canEdit}
            {#if broken && held > 0}<button class="chip" onclick={() => keepAnew(walk)}>keep it as it is now</button>{/if}
            <button class="chip chip-ghost" onclick={() => (renaming = walk.id)}>rename</button>
            <button class="chip chip-ghost" onclick={() => session.edit(`Let ${walk.name} go`, removeWalk(session.piece, walk.id))}>let go</button>
          {/if}
        </div>
      </article>
    {/each}
  </section>
{/if}
