<script lang="ts">
  import type { Snippet } from 'svelte';
  import Logo from './Logo.svelte';

  /** A page of its own with little on it: a sheet on linen. */
  let { title, children }: { title: string; children: Snippet } = $props();
</script>

<svelte:head><title>{title} · Zany Thread</title></svelte:head>

<main class="linen-ground scroll grid min-h-screen place-items-center p-4">
  <div class="flex w-full max-w-[440px] flex-col gap-5 rounded-2xl border border-[var(--line)] bg-[var(--sheet)] p-8 shadow-xl">
    <a class="flex items-center gap-3" href="/"
      ><Logo /><span class="text-[17px]" style="font-family: var(--heading); font-weight: 700">Zany Thread</span></a
    >
    <h1 class="text-[22px]">{title}</h1>
    {@render children()}
  </div>
</main>
