<script lang="ts">
  import {
    addSections,
    addThreads,
    beginsBinding,
    completions,
    framesPerSecond,
    guessVariable,
    newFrame,
    newVariable,
    parseBinding,
    parseLine,
    parseLines,
    printLine,
    rewriteThread,
    SCENE_BINDABLE,
    timelineOperations,
    scopeOf,
    unknownVariable,
    type LineBinding,
    type LineThread,
    type OwnerKind,
    type Result,
    type LineError,
  } from '@zany/core';
  import { newId } from '$lib/client/ids';
  import { bind, bindState } from './acts';
  import type { EditorSession } from '$lib/client/session.svelte';

  interface Props {
    session: EditorSession;
    on: OwnerKind;
    owner: string;
    /** The thread that is rewritten; a new one is added if none is given. */
    thread?: string;
    text?: string;
    focus?: boolean;
    onclose?: () => void;
  }
  let { session, on, owner, thread, text = '', focus = false, onclose }: Props = $props();

  // svelte-ignore state_referenced_locally
  let typed = $state(text);
  let picked = $state(-1);
  let touched = $state(false);
  let active = $state(false);
  let input: HTMLInputElement;

  /** A new line of a layer is for all layers that are selected with it. */
  const owners = $derived(on === 'layer' && !thread && session.selection.includes(owner) ? session.selection : [owner]);
  const scope = $derived(
    scopeOf(
      session.piece,
      on === 'piece' ? null : on === 'scene' ? owner : (session.piece.layers.get(owner)?.scene ?? null),
      on === 'layer' ? owner : null
    )
  );
  const offers = $derived(active && typed !== text ? completions(typed, scope, 7) : []);
  /** A line is a thread, or, on a layer, a binding. */
  type Written = LineThread | LineBinding;
  const parseHere = (line: string): Result<Written, LineError> =>
    !thread && on !== 'piece' && beginsBinding(line, on === 'scene' ? SCENE_BINDABLE : undefined)
      ? parseBinding(line, scope)
      : parseLine(line, scope);
  const parsed = $derived.by(() => (typed.trim() ? parseHere(typed) : null));
  const lacking = $derived(parsed && !parsed.ok ? unknownVariable(typed, scope.variables) : null);
  const problem = $derived(touched && parsed && !parsed.ok ? parsed.error : null);
  const ghost = $derived(
    offers[0] && typed && offers[0].line.toLowerCase().startsWith(typed.toLowerCase()) ? offers[0].line.slice(typed.length) : ''
  );

  /** The offer that Enter takes: the picked one, else the first where what is typed says nothing by itself. */
  const chosen = $derived(picked >= 0 ? offers[picked] : parsed?.ok ? undefined : offers[0]);

  function writeOne(written: Written) {
    if ('cue' in written) return write([written]);
    if (on === 'scene' ? bindState(session, owner, written.value) : bind(session, owners, written.what, written.value)) done();
  }

  function write(lines: readonly LineThread[]) {
    const operations = thread && lines.length === 1 ? rewriteThread(thread, lines[0]!) : null;
    if (operations) {
      if (!session.edit('Rewrite a thread', operations)) return;
    } else {
      const operations = owners.flatMap((one) => addThreads(session.piece, on, one, linesOf(lines, one), newId));
      const made = lines.length * owners.length;
      // What the piece refuses is still there to be changed.
      if (!session.edit(made === 1 ? 'New thread' : `${made} new threads`, operations)) return;
    }
    done();
  }

  /** The lines as another layer says them: its *this* is itself. */
  function linesOf(lines: readonly LineThread[], one: string): readonly LineThread[] {
    if (one === owner) return lines;
    const again = parseLines(lines.map((line) => printLine(line, scope)).join('\n'), scopeOf(session.piece, session.sceneId, one));
    return again.ok ? again.value : lines;
  }

  function done() {
    typed = '';
    touched = false;
    picked = -1;
    onclose?.();
    if (on === 'layer') leave();
  }

  /** Back to the layer's row, where keys are commands again; lines of a frame or piece are mostly written one after the other. */
  function leave() {
    input.blur();
    document.querySelector<HTMLElement>(`[data-pick="${owner}"]`)?.focus({ preventScroll: true });
  }

  function enter() {
    const whole = chosen && parseHere(chosen.line);
    if (whole?.ok && (picked >= 0 || !parsed?.ok)) return writeOne(whole.value);
    // A word that was begun is finished; where nothing of it is there yet, what is missing is said.
    const isBegun = chosen !== undefined && (picked >= 0 || typed.slice(chosen.from).trim() !== '');
    if (isBegun && !parsed?.ok) return take(chosen.line);
    const line = parseHere(typed);
    if (line.ok) return writeOne(line.value);
    if (lacking) return makeVariable(lacking);
    touched = true;
  }

  function take(line: string) {
    typed = line + (/[\p{L}]$/u.test(line) ? ' ' : '');
    picked = -1;
    input.focus();
  }

  /** Makes the frame that was named and does not exist, as a draft, and leads there. */
  function makeDraft(name: string) {
    const id = newId();
    if (!session.edit(`New draft frame ${name}`, newFrame(session.piece, id, { name, draft: true }))) return;
    const line = parseHere(typed);
    if (line.ok) writeOne(line.value);
  }

  /** The label of the open scene that a line asks for and that is not there; a new section of a second is made for it, at the end. */
  const newLabel = $derived.by(() => {
    const asked = parsed && !parsed.ok ? parsed.error.unknownLabel : null;
    return asked && scope.scene !== null && (asked.of ?? scope.scene) === scope.scene ? asked.name : null;
  });

  function makeLabel(name: string) {
    const scene = scope.scene!;
    const fps = framesPerSecond(session);
    const timeline = session.plain.piece.scenes.get(scene)?.timeline ?? { length: 1 };
    const next = addSections(timeline, [name], fps, newId);
    if (!session.edit(`New section ${name}`, timelineOperations(session.plain.piece, scene, next), 'plain')) return;
    const line = parseHere(typed);
    if (line.ok) writeOne(line.value);
  }

  /** Makes the variable that a line sets and that is not there yet. */
  function makeVariable({ name, value }: { name: string; value: string }) {
    const spec = guessVariable(name, value);
    if (!session.edit(`New variable ${name}`, newVariable(session.piece, newId(), spec))) return;
    const line = parseHere(typed);
    if (line.ok) writeOne(line.value);
  }

  function key(event: KeyboardEvent) {
    event.stopPropagation();
    if (event.key === 'Enter') enter();
    else if (event.key === 'Tab' && !event.shiftKey && (chosen ?? offers[0]) && typed) take((chosen ?? offers[0])!.line);
    else if (event.key === 'ArrowDown') picked = Math.min(offers.length - 1, picked + 1);
    else if (event.key === 'ArrowUp') picked = Math.max(-1, picked - 1);
    else if (event.key === 'Escape') {
      typed = text;
      onclose?.();
      leave();
    } else return;
    event.preventDefault();
  }

  /** Several lines pasted at once become several threads. */
  function pasted(event: ClipboardEvent) {
    const lines = event.clipboardData?.getData('text/plain') ?? '';
    event.stopPropagation();
    if (!lines.trim().includes('\n')) return;
    event.preventDefault();
    const all = parseLines(lines, scope);
    if (all.ok) write(all.value);
    else session.notify(`These lines cannot be read. ${all.error.message}`);
  }

  function begin(node: HTMLInputElement) {
    if (focus) node.focus();
  }
</script>

<div class="relative">
  <div class="field relative flex h-[28px] items-center !p-0 {active ? '!border-[var(--gold)]' : ''}">
    <div class="soft pointer-events-none absolute inset-0 flex items-center overflow-hidden whitespace-pre px-2" aria-hidden="true">
      <span class="invisible">{typed}</span><span class="opacity-70">{ghost}</span>
    </div>
    <input
      bind:this={input}
      bind:value={typed}
      class="relative h-full w-full bg-transparent px-2 outline-none"
      placeholder={owners.length > 1 ? `for all ${owners.length}: name of a frame, or hover → go to …` : 'type: name of a frame, or hover → go to …'}
      aria-label="Thread line"
      aria-invalid={problem !== null}
      role="combobox"
      aria-expanded={offers.length > 0}
      aria-controls="offers-{owner}"
      autocomplete="off"
      spellcheck="false"
      onkeydown={key}
      onpaste={pasted}
      oninput={() => ((picked = -1), (touched = false))}
      onfocus={() => (active = true)}
      onblur={() => ((active = false), (touched = typed.trim() !== '' && typed !== text))}
      use:begin
    />
    {#if active}<span class="soft pr-2" aria-hidden="true">⏎</span>{/if}
  </div>
  {#if offers.length && typed}
    <ul class="pop absolute left-0 right-0 z-30 mt-1 max-h-56 overflow-auto p-1" role="listbox" id="offers-{owner}">
      {#each offers as offer, i (offer.word)}
        <li role="option" aria-selected={i === picked}>
          <button
            class="menu-row"
            aria-selected={i === picked}
            tabindex="-1"
            onpointerdown={(event) => {
              event.preventDefault();
              const whole = parseHere(offer.line);
              if (whole.ok) writeOne(whole.value);
              else take(offer.line);
            }}>{offer.word}</button
          >
        </li>
      {/each}
    </ul>
  {/if}
  {#snippet making(tone: 'chip-gold' | 'chip-teal', words: string, make: () => void)}
    <button
      class="chip mt-1 {tone}"
      onpointerdown={(event) => {
        event.preventDefault();
        make();
      }}>make {words}</button
    >
  {/snippet}
  {#if parsed && !parsed.ok && parsed.error.unknownFrame && (touched || offers.length === 0)}
    {@const name = parsed.error.unknownFrame}
    {@render making('chip-gold', `draft frame “${name}”`, () => makeDraft(name))}
  {:else if newLabel && (touched || offers.length === 0)}
    {@render making('chip-gold', `the section “${newLabel}”`, () => makeLabel(newLabel))}
  {:else if lacking && (touched || offers.length === 0)}
    {@const { name, value } = lacking}
    {@render making('chip-teal', `the variable “${name}” (${guessVariable(name, value).type})`, () => makeVariable(lacking))}
  {:else if problem}
    <p class="mt-1 text-[12px] text-[var(--brick-text)]" role="alert">{problem.message}</p>
  {/if}
</div>
