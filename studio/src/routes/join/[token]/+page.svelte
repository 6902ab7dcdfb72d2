<script lang="ts">
  import { enhance } from '$app/forms';
  import { page } from '$app/state';
  import Doorway from '$lib/shared/Doorway.svelte';
  import type { Role } from '$lib/shared/types';
  import type { ActionData, PageData } from './$types';

  let { data, form }: { data: PageData; form: ActionData } = $props();

  const means: Record<Role, string> = {
    owner: 'An owner may do all: change it, invite others, delete it.',
    editor: 'An editor may change it.',
    reviewer: 'A reviewer may look, walk and comment, and changes nothing.',
  };
</script>

<Doorway title={data.invited ? `“${data.invited.name}”` : 'An invitation'}>
  {#if data.invited}
    <p>{data.invited.by} invites you to this piece as {data.invited.role}. {means[data.invited.role]}</p>
    {#if form?.problem}<p role="alert" class="text-[var(--brick-text)]">{form.problem}</p>{/if}
    {#if data.person}
      <form method="POST" use:enhance>
        <button class="act act-go h-10 w-full justify-center text-[14px]">Come in as {data.person.name}</button>
      </form>
    {:else}
      <a class="act act-go h-10 justify-center text-[14px]" href="/sign-in?back={encodeURIComponent(page.url.pathname)}"
        >Sign in or make an account first</a
      >
    {/if}
  {:else}
    <p role="alert">{data.problem}</p>
    <a class="soft self-start underline" href="/">To the Workroom</a>
  {/if}
</Doorway>
