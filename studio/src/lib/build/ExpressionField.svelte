<script lang="ts">
  import {
    checkTypes,
    displayExpression,
    expressionCompletions,
    parseExpression,
    storeExpression,
    typesIn,
    type LineScope,
    type ValueType,
  } from '@zany/core';
  import { useSession } from '$lib/shared/desk.svelte';

  interface Props {
    /** The stored expression. */
    value: string;
    scope: LineScope;
    /** What it has to give, if that is known. */
    wanted?: ValueType | null;
    label?: string;
    onchange: (stored: string) => void;
    focus?: boolean;
    wide?: boolean;
  }
  let { value, scope, wanted = null, label = 'Expression', onchange, focus = false, wide = false }: Props = $props();

  const session = useSession();
  const uid = $props.id();
  const shown = $derived(displayExpression(value, scope.expression).text);
  let typed: string | null = $state(null);
  let active = $state(false);
  let picked = $state(-1);
  let input: HTMLInputElement;
  const text = $derived(typed ?? shown);
  const offers = $derived(active && typed !== null ? expressionCompletions(typed, scope, 7) : []);

  const problem = $derived.by(() => {
    if (text.trim() === '') return 'Write an expression, such as Seats > 0.';
    const stored = storeExpression(text, scope.expression);
    if (!stored.ok) return `Column ${stored.error.from + 1}: ${stored.error.sentence}`;
    const parsed = parseExpression(stored.value);
    const fault = parsed.ok ? checkTypes(parsed.value, typesIn(session.piece), wanted)[0] : parsed.error;
    return fault ? `Column ${displayExpression(stored.value, scope.expression).at(fault.from) + 1}: ${fault.sentence}` : '';
  });

  /** Keeps what can be read, right or wrong in its types; what cannot be read stays here with its reason. */
  function keep() {
    if (typed === null) return;
    const stored = storeExpression(typed, scope.expression);
    if (!stored.ok || typed.trim() === '') return;
    typed = null;
    if (stored.value !== value) onchange(stored.value);
  }

  function take(line: string) {
    typed = line;
    picked = -1;
    input.focus();
  }

  function key(event: KeyboardEvent) {
    event.stopPropagation();
    const offer = picked >= 0 ? offers[picked] : undefined;
    if (event.key === 'Enter') {
      if (offer) take(offer.line);
      keep();
    } else if (event.key === 'Tab' && !event.shiftKey && offers[0] && typed) take((offer ?? offers[0]).line);
    else if (event.key === 'ArrowDown') picked = Math.min(offers.length - 1, picked + 1);
    else if (event.key === 'ArrowUp') picked = Math.max(-1, picked - 1);
    else if (event.key === 'Escape' && typed !== null) typed = null;
    else return;
    event.preventDefault();
  }

  function begin(node: HTMLInputElement) {
    if (focus) node.focus();
  }
</script>

<span class="relative inline-flex min-w-0 flex-col {wide ? 'w-full' : ''}">
  <input
    bind:this={input}
    class="field h-[22px] !px-1.5"
    style:width={wide ? '100%' : `calc(${Math.max(4, Math.min(26, text.length + 1))}ch + 12px)`}
    value={text}
    aria-label={label}
    aria-invalid={problem !== ''}
    title={problem || undefined}
    role="combobox"
    aria-expanded={offers.length > 0}
    aria-controls="offers-{uid}"
    autocomplete="off"
    spellcheck="false"
    oninput={(event) => ((typed = event.currentTarget.value), (picked = -1))}
    onkeydown={key}
    onfocus={() => (active = true)}
    onblur={() => ((active = false), keep())}
    use:begin
  />
  {#if offers.length}
    <ul class="pop absolute left-0 top-full z-50 mt-1 max-h-48 min-w-[180px] overflow-auto p-1" role="listbox" id="offers-{uid}">
      {#each offers as offer, i (offer.word)}
        <li
          role="option"
          aria-selected={i === picked}
          class="menu-row"
          onpointerdown={(event) => {
            event.preventDefault();
            take(offer.line);
          }}
        >
          {offer.word}
        </li>
      {/each}
    </ul>
  {/if}
  {#if problem && (typed !== null || value === '')}<span class="max-w-[280px] text-[12px] text-[var(--brick-text)]" role="alert">{problem}</span>{/if}
</span>
