<script lang="ts" module>
  const SIGNS: Readonly<Record<string, string>> = { '&amp;': '&', '&lt;': '<', '&gt;': '>', '&quot;': '"', '&#39;': "'" };
  /** What the parser wrote as HTML, as signs again. */
  const unescaped = (text: string) => text.replace(/&(?:amp|lt|gt|quot|#39);/g, (sign) => SIGNS[sign]!);
</script>

<script lang="ts">
  import { lexer, type Token, type Tokens } from 'marked';
  import { PICTURE } from './types';

  /** Markdown of the plain kind: what its parser finds is drawn as elements, so that no text of others is ever taken for HTML. */
  let { text, pictureAt }: { text: string; pictureAt?: (id: string) => string } = $props();

  const tokens = $derived(lexer(text, { gfm: true, breaks: true }));
  const inner = (token: Token): Token[] => ('tokens' in token && token.tokens ? token.tokens : []);
  const isLink = (href: string) => /^(https?:|mailto:)/i.test(href);
</script>

{#snippet all(list: readonly Token[])}
  {#each list as token, i (i)}
    {#if token.type === 'paragraph'}<p>{@render all(inner(token))}</p>
    {:else if token.type === 'heading'}<p class="font-bold">{@render all(inner(token))}</p>
    {:else if token.type === 'strong'}<strong>{@render all(inner(token))}</strong>
    {:else if token.type === 'em'}<em>{@render all(inner(token))}</em>
    {:else if token.type === 'del'}<del>{@render all(inner(token))}</del>
    {:else if token.type === 'codespan'}<code class="rounded bg-[var(--tan)] px-1">{(token as Tokens.Codespan).text}</code>
    {:else if token.type === 'code'}<pre class="overflow-auto rounded bg-[var(--tan)] p-2 text-[12px]">{(token as Tokens.Code).text}</pre>
    {:else if token.type === 'blockquote'}<blockquote class="border-l-2 border-[var(--gold)] pl-2">{@render all(inner(token))}</blockquote>
    {:else if token.type === 'br'}<br />
    {:else if token.type === 'list'}
      {@const list = token as Tokens.List}
      <svelte:element this={list.ordered ? 'ol' : 'ul'} class="{list.ordered ? 'list-decimal' : 'list-disc'} pl-5">
        {#each list.items as item, k (k)}<li>{@render all(item.tokens)}</li>{/each}
      </svelte:element>
    {:else if token.type === 'link' && isLink((token as Tokens.Link).href)}
      <!-- eslint-disable-next-line svelte/no-navigation-without-resolve -- to elsewhere -->
      <a class="underline" href={(token as Tokens.Link).href} target="_blank" rel="noopener noreferrer nofollow">{@render all(inner(token))}</a>
    {:else if token.type === 'image' && pictureAt && (token as Tokens.Image).href.startsWith(PICTURE)}
      {@const address = pictureAt((token as Tokens.Image).href.slice(PICTURE.length).replace(/[^0-9A-Za-z]/g, ''))}
      <!-- eslint-disable-next-line svelte/no-navigation-without-resolve -- a file -->
      <a href={address} target="_blank" class="my-1 block"
        ><img
          class="max-h-[320px] max-w-full rounded border border-[var(--line)]"
          src={address}
          alt={(token as Tokens.Image).text}
          loading="lazy"
        /></a
      >
    {:else if token.type === 'text' && inner(token).length}{@render all(inner(token))}
    {:else if token.type === 'text' || token.type === 'escape'}{unescaped((token as Tokens.Text).text)}
    {:else if token.type !== 'space'}{token.raw}{/if}
  {/each}
{/snippet}

<div class="flex flex-col gap-1 break-words">{@render all(tokens)}</div>
