<script lang="ts">
  import { takeFocus } from './focus';
  import { commands, keyLabel, needsOf, type Command, type CommandContext } from './commands';

  let { context, onclose }: { context: CommandContext; onclose: () => void } = $props();

  interface Entry {
    readonly label: string;
    readonly hint: string;
    /** What has to be so first; null where it can be done now. */
    readonly needs: string | null;
    readonly run: () => void;
  }
  let typed = $state('');
  let at = $state(0);

  const entries = $derived.by((): Entry[] => {
    const { session } = context;
    const can = (command: Command) => command.when?.(context) ?? true;
    const all = commands.filter((command) => command.id !== 'finder');
    const entry = (command: Command, needs: string | null) => ({
      label: command.label,
      hint: keyLabel(command.keys?.[0] ?? ''),
      needs,
      run: () => command.run(context),
    });
    const frames = session.program.frames.map((id) => session.program.scenes.get(id)!.scene);
    return [
      ...all.filter(can).map((command) => entry(command, null)),
      ...frames.map((frame) => ({
        label: `Open ${frame.name}`,
        hint: 'frame',
        needs: null,
        run: () => (session.openScene(frame.id), context.desk !== 'build' && context.go('build')),
      })),
      ...all.flatMap((command) => {
        const needs = can(command) ? null : needsOf(command, context);
        return needs === null ? [] : [entry(command, needs)];
      }),
    ];
  });
  const words = $derived(typed.toLowerCase().split(/\s+/).filter(Boolean));
  const shown = $derived(entries.filter((entry) => words.every((word) => entry.label.toLowerCase().includes(word))).slice(0, 12));

  function pick(entry: Entry | undefined) {
    if (entry?.needs) return;
    onclose();
    entry?.run();
  }

  function key(event: KeyboardEvent) {
    event.stopPropagation();
    if (event.key === 'Escape') onclose();
    else if (event.key === 'Enter') pick(shown[at]);
    else if (event.key === 'ArrowDown') at = Math.min(shown.length - 1, at + 1);
    else if (event.key === 'ArrowUp') at = Math.max(0, at - 1);
    else return;
    event.preventDefault();
  }
</script>

<div class="fixed inset-0 z-50" role="presentation" onpointerdown={(event) => event.target === event.currentTarget && onclose()}>
  <div class="pop mx-auto mt-[12vh] w-[520px] p-2" role="dialog" aria-label="Command finder">
    <input
      class="field h-10 w-full text-[15px]"
      placeholder="What do you want to do?"
      bind:value={typed}
      oninput={() => (at = 0)}
      onkeydown={key}
      aria-label="Find a command or a frame"
      role="combobox"
      aria-expanded="true"
      aria-controls="finder-list"
      use:takeFocus
    />
    <ul id="finder-list" class="mt-1" role="listbox" aria-label="Commands">
      {#each shown as entry, i (entry.label)}
        <li role="option" aria-selected={i === at} aria-disabled={entry.needs !== null} class={i === at ? 'rounded bg-[var(--gold-wash)]' : ''}>
          <button class="menu-row h-8" aria-disabled={entry.needs !== null} tabindex="-1" onclick={() => pick(entry)} onpointermove={() => (at = i)}
            ><span class="flex-1 {entry.needs ? 'opacity-60' : ''}">{entry.label}</span>{#if entry.needs}<span class="soft text-[12px]"
                >{entry.needs}</span
              >{:else if entry.hint}<kbd>{entry.hint}</kbd>{/if}</button
          >
        </li>
      {:else}
        <li class="soft p-3">Nothing is called that.</li>
      {/each}
    </ul>
  </div>
</div>
