<script lang="ts">
  import { enhance } from '$app/forms';
  import Doorway from '$lib/shared/Doorway.svelte';
  import { count } from '@zany/core';
  import type { ActionData, PageData } from './$types';

  let { data, form }: { data: PageData; form: ActionData } = $props();
  const problem = $derived(form && 'problem' in form ? form.problem : '');
  const done = $derived(form && 'done' in form ? form.done : '');
  const others = $derived(data.account.sessions - 1);
</script>

<Doorway title="Your account">
  <p class="soft">{data.account.email}</p>
  {#if done}<p role="status" class="text-[var(--teal)]">{done}</p>{/if}
  {#if problem}<p role="alert" class="text-[var(--brick-text)]">{problem}</p>{/if}
  <form method="POST" action="?/name" use:enhance class="flex items-end gap-2">
    <label class="flex flex-1 flex-col gap-1"
      ><span class="soft">Your name</span><input
        class="field h-9"
        name="name"
        autocomplete="name"
        required
        maxlength="80"
        value={data.account.name}
      /></label
    >
    <button class="act h-9">Change</button>
  </form>
  {#if !data.account.isDemo}
    <form method="POST" action="?/password" use:enhance class="flex flex-col gap-3 border-t border-dashed border-[var(--gold)] pt-4">
      <label class="flex flex-col gap-1"
        ><span class="soft">Old password</span><input class="field h-9" name="old" type="password" autocomplete="current-password" required /></label
      >
      <label class="flex flex-col gap-1"
        ><span class="soft">New password, {data.leastPassword} signs or more</span><input
          class="field h-9"
          name="password"
          type="password"
          autocomplete="new-password"
          required
        /></label
      >
      <button class="act h-9 justify-center">Change the password</button>
    </form>
  {/if}
  <form method="POST" action="?/end" use:enhance class="flex items-center gap-3 border-t border-dashed border-[var(--gold)] pt-4">
    <p class="flex-1">{others > 0 ? `You are signed in in ${count(others, 'other browser')}.` : 'You are signed in in this browser alone.'}</p>
    <button class="act" disabled={others <= 0}>Sign out elsewhere</button>
  </form>
  <a class="soft self-start underline" href="/">To the Workroom</a>
</Doorway>
