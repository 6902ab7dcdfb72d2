<script lang="ts">
  import { checkTypes, displayExpression, parseExpression, scopeFor, storeExpression, typesIn } from '@zany/core';
  import { newId } from '$lib/client/ids';
  import { useSession } from '$lib/shared/desk.svelte';
  import { dayOf } from '$lib/shared/moments';
  import type { LinkWish, PieceVersion, ReviewLink, ReviewTask } from '$lib/shared/types';

  interface Props {
    isBusy: boolean;
    /** Versions that have a name. */
    named: readonly PieceVersion[];
    /** The link that is changed; a new one is made where there is none. */
    link?: ReviewLink | null;
    onmake: (body: Partial<LinkWish> & { password?: string | null }) => void;
    onclose: () => void;
  }
  let { isBusy, named, link = null, onmake, onclose }: Props = $props();

  const session = useSession();
  const frames = $derived(session.program.frames.map((id) => session.program.scenes.get(id)!.scene));
  const bundles = $derived(Object.entries(session.piece.head.bundles ?? {}));

  interface Draft {
    id: string;
    sentence: string;
    start: string;
    done: 'frame' | 'condition';
    frame: string;
    state: string;
    condition: string;
  }

  const scope = () => scopeFor(session.piece, { on: 'piece', owner: session.id }).expression;

  function draftOf({ id, sentence, start, goal }: ReviewTask): Draft {
    const common = { id, sentence, start: start ?? '', frame: '', state: '', condition: '' };
    return 'condition' in goal
      ? { ...common, done: 'condition', condition: displayExpression(goal.condition, scope()).text }
      : { ...common, done: 'frame', frame: goal.frame, state: goal.state ?? '' };
  }

  /** As it was until now, of a link that is changed. */
  const AS_IT_IS = 'as it is';

  // What is written here is the form's own until it is sent.
  // svelte-ignore state_referenced_locally
  const old = link;
  let name = $state(old?.name ?? '');
  let may: LinkWish['may'] = $state(old?.may ?? 'comment');
  let start = $state(old?.start ?? '');
  let bundle = $state(old?.bundle ?? '');
  /** `latest`, `now`, or the revision of a version that has a name, or that the link shows already. */
  let shows = $state(old?.revision == null ? 'latest' : String(old.revision));
  let days = $state(old ? AS_IT_IS : '14');
  let password = $state('');
  let withPassword = $state(old?.hasPassword ?? false);
  let hints = $state(old?.hints ?? true);
  let drafts: Draft[] = $state((old?.tasks ?? []).map(draftOf));
  let problem = $state('');

  const shownFrames = $derived(frames.filter((frame) => bundle === '' || frame.bundle === bundle));

  function addTask() {
    const last = frames.at(-1)?.id ?? '';
    drafts.push({ id: newId(), sentence: '', start: '', done: 'frame', frame: last, state: '', condition: '' });
  }

  /** A draft as a task, or what it lacks. */
  function taskOf(draft: Draft, i: number): ReviewTask | string {
    const sentence = draft.sentence.trim();
    if (!sentence) return `Task ${i + 1} has no sentence.`;
    const common = { id: draft.id, sentence, start: draft.start || null };
    if (draft.done === 'frame' && !shownFrames.some(({ id }) => id === draft.frame))
      return `Task ${i + 1} leads to a frame that the link does not show.`;
    if (draft.done === 'frame') return { ...common, goal: { frame: draft.frame, ...(draft.state && { state: draft.state }) } };
    const stored = storeExpression(draft.condition, scope());
    if (!draft.condition.trim() || !stored.ok) return `Task ${i + 1}: ${stored.ok ? 'what has to hold is not written.' : stored.error.sentence}`;
    const parsed = parseExpression(stored.value);
    const fault = parsed.ok ? checkTypes(parsed.value, typesIn(session.piece), 'yes/no')[0] : parsed.error;
    return fault ? `Task ${i + 1}: ${fault.sentence}` : { ...common, goal: { condition: stored.value } };
  }

  async function make(event: SubmitEvent) {
    event.preventDefault();
    const tasks = may === 'look' ? [] : drafts.map(taskOf);
    const wrong = tasks.find((one) => typeof one === 'string');
    problem = typeof wrong === 'string' ? wrong : '';
    if (problem) return;
    // What is frozen is what is on the screen.
    if (shows === 'now' && !(await session.whenSaved()))
      return void (problem = 'Some changes are not saved yet. Try again when the server is reached.');
    onmake({
      name: name.trim(),
      may,
      start: start || null,
      bundle: bundle || null,
      revision: shows === 'latest' ? null : shows === 'now' ? session.savedRevision : Number(shows),
      hints,
      tasks: tasks as ReviewTask[],
      ...(days !== AS_IT_IS && { expires: days === '' ? null : new Date(Date.now() + Number(days) * 24 * 3600 * 1000).toISOString() }),
      ...(old ? passwordChange() : { password: password || null }),
    });
  }

  /** Of a password that is there only another one, or that there shall be none, is said. */
  function passwordChange(): { password?: string | null } {
    if (password !== '') return { password };
    return old?.hasPassword && !withPassword ? { password: null } : {};
  }

  const label = 'flex flex-col gap-1';
</script>

<form
  class="flex flex-col gap-4 rounded-xl border border-[var(--line)] bg-[var(--sheet)] p-5"
  aria-label={old ? `Change the link ${old.name}` : 'New review link'}
  onsubmit={make}
>
  <div class="grid grid-cols-2 gap-x-4 gap-y-3">
    <!-- svelte-ignore a11y_autofocus -->
    <label class={label}
      ><span class="soft">Whom it is for</span><input class="field h-8" required maxlength="120" bind:value={name} autofocus /></label
    >
    <label class={label}
      ><span class="soft">They may</span>
      <select class="field h-8" bind:value={may} aria-label="They may">
        <option value="comment">walk and comment: it runs, what they do is kept</option>
        <option value="walk">walk, without comments</option>
        <option value="look">look: the frames, one by one</option>
      </select></label
    >
    <label class={label}
      ><span class="soft">Frames</span>
      <select class="field h-8" bind:value={bundle} aria-label="Frames">
        <option value="">all</option>
        {#each bundles as [id, one] (id)}<option value={id}>{one.name}</option>{/each}
      </select></label
    >
    <label class={label}
      ><span class="soft">Begins on</span>
      <select class="field h-8" bind:value={start} aria-label="Begins on">
        <option value="">where the piece begins</option>
        {#each shownFrames as frame (frame.id)}<option value={frame.id}>{frame.name}</option>{/each}
      </select></label
    >
    <label class={label}
      ><span class="soft">Good for</span>
      <select class="field h-8" bind:value={days} aria-label="Good for">
        {#if old}<option value={AS_IT_IS}>as it is: {old.expires ? `until ${dayOf(old.expires)}` : 'as long as you like'}</option>{/if}
        <option value="1">a day</option>
        <option value="7">a week</option>
        <option value="14">two weeks</option>
        <option value="90">three months</option>
        <option value="">as long as you like</option>
      </select></label
    >
    <label class={label}
      ><span class="soft">{old?.hasPassword ? 'Another password' : 'Password, or none'}</span><input
        class="field h-8"
        minlength="4"
        maxlength="200"
        bind:value={password}
        autocomplete="off"
      /></label
    >
  </div>
  <label class="flex items-center gap-2"
    ><span class="soft">Shows</span>
    <select class="field h-8" bind:value={shows} aria-label="Shows">
      <option value="latest">the latest, whatever is changed</option>
      <option value="now">the piece as it is now, whatever is changed later</option>
      {#if old && old.revision !== null && !named.some(({ revision }) => revision === old.revision)}
        <option value={String(old.revision)}>what it shows until now, without a name</option>
      {/if}
      {#each named as { revision, name: version } (revision)}<option value={String(revision)}>the version “{version}”</option>{/each}
    </select></label
  >
  {#if old?.hasPassword && password === ''}
    <label class="flex items-center gap-2"><input type="checkbox" bind:checked={withPassword} /> It asks for its password</label>
  {/if}
  {#if old}
    <p class="soft">Which frames it shows, and where it begins, stays: what was done by it is looked at with those. Make another link for others.</p>
  {/if}
  {#if may !== 'look'}
    <label class="flex items-center gap-2"
      ><input type="checkbox" bind:checked={hints} /> A press that meets nothing lights up what can be pressed</label
    >
    <fieldset class="flex flex-col gap-3">
      <legend class="mb-2 text-[15px] font-semibold">Tasks</legend>
      {#each drafts as draft, i (draft.id)}
        <div class="flex flex-col gap-2 rounded-lg bg-[var(--rim)] p-3" role="group" aria-label="Task {i + 1}">
          <div class="flex gap-2">
            <input
              class="field h-8 flex-1"
              bind:value={draft.sentence}
              maxlength="300"
              placeholder="Book two seats to Skarra on Saturday"
              aria-label="Task"
            />
            <button type="button" class="chip" onclick={() => drafts.splice(i, 1)} aria-label="Take task {i + 1} away">take away</button>
          </div>
          <div class="flex flex-wrap items-center gap-2">
            from
            <select class="field h-7" bind:value={draft.start} aria-label="Task begins on">
              <option value="">where the link begins</option>
              {#each shownFrames as frame (frame.id)}<option value={frame.id}>{frame.name}</option>{/each}
            </select>
            done when
            <select class="field h-7" bind:value={draft.done} aria-label="Done when">
              <option value="frame">a frame is there</option>
              <option value="condition">something holds</option>
            </select>
            {#if draft.done === 'frame'}
              <select class="field h-7" bind:value={draft.frame} aria-label="Frame to reach" onchange={() => (draft.state = '')}>
                {#each shownFrames as frame (frame.id)}<option value={frame.id}>{frame.name}</option>{/each}
              </select>
              {#if Object.keys(session.piece.scenes.get(draft.frame)?.states ?? {}).length}
                in
                <select class="field h-7" bind:value={draft.state} aria-label="State to reach">
                  <option value="">any state</option>
                  {#each Object.entries(session.piece.scenes.get(draft.frame)!.states!) as [id, one] (id)}<option value={id}>{one.name}</option
                    >{/each}
                </select>
              {/if}
            {:else}
              <input class="field h-7 flex-1" bind:value={draft.condition} placeholder="Seats = 2" aria-label="What has to hold" />
            {/if}
          </div>
        </div>
      {/each}
      <button type="button" class="chip self-start" onclick={addTask} disabled={drafts.length >= 20}>add a task</button>
    </fieldset>
  {/if}
  {#if problem}<p role="alert" class="text-[var(--brick-text)]">{problem}</p>{/if}
  <div class="flex gap-2">
    <button class="act act-go h-9" disabled={isBusy}>{old ? 'Change it' : 'Make the link'}</button>
    <button type="button" class="act h-9" onclick={onclose}>Leave it</button>
  </div>
</form>
