<script lang="ts">
  import { rules } from '@zany/core';

  /** What a rule of the walk finds, what it lets be, and an example drawn as the docs have it. */
  let { rule: id }: { rule: string } = $props();

  const drawn = import.meta.glob<string>('../../../../docs/rules/*.svg', { query: '?url', import: 'default' });

  const rule = $derived(rules.find((one) => one.id === id));
  const picture = $derived(drawn[`../../../../docs/rules/${id}.svg`]);
</script>

{#if rule}
  <div class="my-1.5 flex flex-col gap-1.5 rounded-lg bg-[var(--rim)] p-2.5" role="note" aria-label="What {rule.words} means">
    <p><b>Found</b>: {rule.meaning}.</p>
    <p class="soft"><b>Nothing is said of</b> {rule.spares}.</p>
    {#if picture}
      {#await picture() then address}
        <figure class="flex flex-col gap-1">
          <img class="max-h-[220px] max-w-full self-start rounded" src={address} alt="An example of {rule.words}" />
          <figcaption class="soft text-[12px]">An example, as the walk sees it.</figcaption>
        </figure>
      {/await}
    {/if}
  </div>
{/if}
