<script lang="ts">
  import { enhance } from '$app/forms';
  import Doorway from '$lib/shared/Doorway.svelte';
  import type { ActionData, PageData } from './$types';

  let { data, form }: { data: PageData; form: ActionData } = $props();
</script>

<Doorway title="A new password">
  {#if data.problem}
    <p role="alert">{data.problem}</p>
    <a class="act act-go self-start" href="/forgotten">Ask for a new link</a>
  {:else}
    <p class="soft">For {data.name}. All browsers that are signed in are signed out by it.</p>
    <form method="POST" use:enhance class="flex flex-col gap-3">
      <label class="flex flex-col gap-1"
        ><span class="soft">New password, {data.leastPassword} signs or more</span><input
          class="field h-9"
          name="password"
          type="password"
          autocomplete="new-password"
          required
        /></label
      >
      {#if form?.problem}<p role="alert" class="text-[var(--brick-text)]">{form.problem}</p>{/if}
      <button class="act act-go h-9 justify-center">Take it</button>
    </form>
  {/if}
</Doorway>
