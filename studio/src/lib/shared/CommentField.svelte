<script lang="ts">
  import type { Comments } from '$lib/client/comments.svelte';
  import { onDestroy, tick } from 'svelte';
  import { begunAt } from './mentions';
  import { MOST_COMMENT } from './types';

  interface Props {
    label: string;
    act: string;
    text?: string;
    isShort?: boolean;
    /** What is not sent yet stays under this name when the field goes. */
    draft?: string | null;
    /** Who can be spoken to, by @ and the name; and where pictures go. */
    comments: Comments;
    /** True when it was taken: then the field is empty again. */
    onsend: (body: string) => Promise<boolean>;
    onleave?: () => void;
  }
  let { label, act, text = '', isShort = false, draft = null, comments, onsend, onleave }: Props = $props();

  // svelte-ignore state_referenced_locally
  let body = $state(text || (draft === null ? '' : (comments.drafts.get(draft) ?? '')));
  onDestroy(() => {
    if (draft !== null) comments.drafts.set(draft, body);
  });
  let isBusy = $state(false);
  let area: HTMLTextAreaElement | undefined = $state();
  let isTaking = $state(false);
  let problem = $state('');
  const uid = $props.id();
  const people = $derived(comments.people);

  /** So many names are offered. */
  const MOST = 6;
  /** The name that is being written, and which of those that fit is chosen. */
  let begun: ReturnType<typeof begunAt> = $state.raw(null);
  let chosen = $state(0);
  const fitting = $derived(
    begun === null ? [] : people.filter((one) => one.toLowerCase().startsWith(begun!.name.toLowerCase()) && one !== begun!.name).slice(0, MOST)
  );

  function look() {
    begun = people.length && area && area.selectionStart === area.selectionEnd ? begunAt(body, area.selectionStart) : null;
    chosen = 0;
  }

  async function take(name: string) {
    if (!begun || !area) return;
    const [before, after] = [body.slice(0, begun.from), body.slice(area.selectionStart)];
    body = `${before}@${name} ${after.trimStart()}`;
    begun = null;
    await tick();
    area.focus();
    area.selectionStart = area.selectionEnd = before.length + name.length + 2;
  }

  /** Pictures that are pasted, dropped or chosen stand where one writes. */
  async function takePictures(files: readonly File[]) {
    for (const file of files.filter(({ type }) => type.startsWith('image/'))) {
      isTaking = true;
      const at = area?.selectionStart ?? body.length;
      const taken = await comments.takePicture(file);
      isTaking = false;
      problem = taken.ok ? '' : taken.error.sentence;
      if (taken.ok) body = `${body.slice(0, at)}${at > 0 && body[at - 1] !== '\n' ? '\n' : ''}${taken.value}\n${body.slice(at)}`;
    }
    await tick();
    area?.focus();
  }

  function paste(event: ClipboardEvent) {
    const files = Array.from(event.clipboardData?.files ?? []);
    if (!files.some(({ type }) => type.startsWith('image/'))) return;
    event.preventDefault();
    void takePictures(files);
  }

  function drop(event: DragEvent) {
    const files = Array.from(event.dataTransfer?.files ?? []);
    if (files.length === 0) return;
    event.preventDefault();
    event.stopPropagation();
    void takePictures(files);
  }

  async function send() {
    if (isBusy || !body.trim()) return;
    isBusy = true;
    const sent = body;
    // What was written since stays.
    if (await onsend(sent.trim())) body = body.startsWith(sent) ? body.slice(sent.length).trimStart() : body;
    isBusy = false;
    begun = null;
  }

  /** Keys for the names that are offered. */
  function choose(event: KeyboardEvent): boolean {
    if (fitting.length === 0) return false;
    if (event.key === 'ArrowDown' || event.key === 'ArrowUp')
      chosen = (chosen + (event.key === 'ArrowDown' ? 1 : fitting.length - 1)) % fitting.length;
    else if ((event.key === 'Enter' && !event.ctrlKey && !event.metaKey) || event.key === 'Tab') void take(fitting[chosen]!);
    else if (event.key === 'Escape') begun = null;
    else return false;
    return true;
  }

  /** Ctrl and Enter sends; all other keys are for what is written. */
  function key(event: KeyboardEvent) {
    if (choose(event)) {
      event.preventDefault();
      event.stopPropagation();
      return;
    }
    if (event.key === 'Escape' && onleave) {
      event.stopPropagation();
      return onleave();
    }
    if (event.key === 'Escape') return;
    event.stopPropagation();
    if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) {
      event.preventDefault();
      void send();
    }
  }
</script>

<div class="relative flex flex-col gap-1.5">
  <textarea
    bind:this={area}
    class="field w-full resize-y !p-2 text-[13px] {isShort && !body ? 'h-[34px]' : 'h-[76px]'}"
    aria-label={label}
    placeholder={label}
    maxlength={MOST_COMMENT}
    bind:value={body}
    aria-autocomplete={people.length ? 'list' : undefined}
    aria-controls={fitting.length ? `${uid}-names` : undefined}
    aria-activedescendant={fitting.length ? `${uid}-${chosen}` : undefined}
    onkeydown={key}
    oninput={look}
    onclick={look}
    onpaste={paste}
    ondrop={drop}
    ondragover={(event) => event.dataTransfer?.types.includes('Files') && event.preventDefault()}
    onblur={() => (begun = null)}></textarea>
  {#if fitting.length}
    <ul data-popover id="{uid}-names" role="listbox" aria-label="Who is spoken to" class="flex flex-wrap gap-1">
      {#each fitting as name, i (name)}
        <li
          id="{uid}-{i}"
          role="option"
          aria-selected={i === chosen}
          class="chip cursor-pointer {i === chosen ? 'chip-on' : ''}"
          onpointerdown={(event) => (event.preventDefault(), void take(name))}
        >
          @{name}
        </li>
      {/each}
    </ul>
  {/if}
  {#if problem}<p role="alert" class="text-[var(--brick-text)]">{problem}</p>{/if}
  {#if body.trim() || isTaking}
    <div class="flex flex-wrap items-center gap-2">
      <button type="button" class="act act-go" disabled={isBusy} onclick={send}>{act}</button>
      {#if onleave}<button type="button" class="act" onclick={onleave}>Leave it</button>{/if}
      <label class="chip cursor-pointer" title="Or paste it, or let it go here"
        >{isTaking ? 'taking it in…' : 'picture…'}<input
          type="file"
          class="sr-only"
          accept="image/png,image/jpeg,image/webp"
          aria-label="Add a picture"
          onchange={(event) => void takePictures(Array.from(event.currentTarget.files ?? []))}
        /></label
      >
      <span class="soft text-[12px]">Ctrl Enter</span>
    </div>
  {/if}
</div>
