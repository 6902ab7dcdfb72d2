<script lang="ts">
  import { MOST_COMMENT } from './types';

  interface Props {
    label: string;
    act: string;
    text?: string;
    isShort?: boolean;
    /** True when it was taken: then the field is empty again. */
    onsend: (body: string) => Promise<boolean>;
    onleave?: () => void;
  }
  let { label, act, text = '', isShort = false, onsend, onleave }: Props = $props();

  // svelte-ignore state_referenced_locally
  let body = $state(text);
  let isBusy = $state(false);

  async function send() {
    if (isBusy || !body.trim()) return;
    isBusy = true;
    if (await onsend(body.trim())) body = '';
    isBusy = false;
  }

  /** Ctrl and Enter sends; all other keys are for what is written. */
  function key(event: KeyboardEvent) {
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

<div class="flex flex-col gap-1.5">
  <textarea
    class="field w-full resize-y !p-2 text-[13px] {isShort && !body ? 'h-[34px]' : 'h-[76px]'}"
    aria-label={label}
    placeholder={label}
    maxlength={MOST_COMMENT}
    bind:value={body}
    onkeydown={key}
  ></textarea>
  {#if body.trim()}
    <div class="flex items-center gap-2">
      <button type="button" class="act act-go" disabled={isBusy} onclick={send}>{act}</button>
      {#if onleave}<button type="button" class="act" onclick={onleave}>Leave it</button>{/if}
      <span class="soft text-[12px]">Ctrl Enter</span>
    </div>
  {/if}
</div>
