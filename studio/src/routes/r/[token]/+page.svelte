<script lang="ts">
  import { enhance } from '$app/forms';
  import { page } from '$app/state';
  import { onMount } from 'svelte';
  import ReviewRoom from '$lib/review/ReviewRoom.svelte';
  import Doorway from '$lib/shared/Doorway.svelte';
  import type { ActionData, PageData } from './$types';

  let { data, form }: { data: PageData; form: ActionData } = $props();

  const KNOWN = 'zany-guest-name';
  let name = $state('');
  onMount(() => (name = localStorage.getItem(KNOWN) ?? ''));

  /** The name that was given once is offered again, in this browser alone. */
  function remember() {
    try {
      localStorage.setItem(KNOWN, name.trim());
    } catch {
      // A browser that keeps nothing asks again.
    }
  }

  const asked = { look: 'look at', walk: 'walk through', comment: 'walk through and say what you think of' } as const;
</script>

<svelte:head><meta name="robots" content="noindex" /></svelte:head>

{#if data.face && data.name !== null}
  {#key page.params.token}<ReviewRoom token={page.params.token!} face={data.face} name={data.name} />{/key}
{:else if data.face}
  {@const { piece, by, may, needsPassword } = data.face}
  <Doorway title={piece}>
    <p>{by} asks you to {asked[may]} this piece.</p>
    <form method="POST" use:enhance class="flex flex-col gap-3" onsubmit={remember}>
      <label class="flex flex-col gap-1"
        ><span class="soft">Your name</span><input
          class="field h-10 text-[16px]"
          name="name"
          autocomplete="name"
          required
          maxlength="80"
          bind:value={name}
        /></label
      >
      {#if needsPassword}
        <label class="flex flex-col gap-1"
          ><span class="soft">Password of the link</span><input
            class="field h-10 text-[16px]"
            name="password"
            type="password"
            autocomplete="off"
            required
          /></label
        >
      {/if}
      {#if form?.problem}<p role="alert" class="text-[var(--brick-text)]">{form.problem}</p>{/if}
      <button class="act act-go h-11 justify-center text-[15px]">Come in</button>
    </form>
    <p class="soft">
      {may === 'look'
        ? `Nothing is kept but this name, for those who made the link.`
        : `Kept are this name, what you press in the piece${may === 'comment' ? ' and what you write' : ''}, for those who made the link; nothing else. You can delete it yourself.`}
    </p>
  </Doorway>
{:else}
  <Doorway title="This link">
    <p role="alert" class="text-[15px]">{data.problem}</p>
  </Doorway>
{/if}
