<script lang="ts">
  import { enhance } from '$app/forms';
  import Doorway from '$lib/shared/Doorway.svelte';
  import { count } from '@zany/core';
  import CopyField from '$lib/hand/CopyField.svelte';
  import { KEY_DAYS, keyMay } from '$lib/shared/types';
  import type { ActionData, PageData } from './$types';

  let { data, form }: { data: PageData; form: ActionData } = $props();
  const problem = $derived(form && 'problem' in form ? form.problem : '');
  const done = $derived(form && 'done' in form ? form.done : '');
  const day = (iso: string) => new Date(iso).toLocaleDateString('en-GB', { day: 'numeric', month: 'long', year: 'numeric' });
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
  <section class="flex flex-col gap-3 border-t border-dashed border-[var(--gold)] pt-4" aria-label="Keys for programs">
    <h2 class="text-[17px]">Keys for programs</h2>
    <p class="soft">
      With a key a program does what you may, over the <a class="underline" href="/api/openapi.json">HTTP interface</a>; your account stays closed to
      it.
    </p>
    {#if form && 'key' in form && form.key}
      <div role="status" class="flex flex-col gap-1">
        <p>Your new key. It is shown this once.</p>
        <CopyField value={form.key} label="The new key" />
      </div>
    {/if}
    {#each data.keys as key (key.id)}
      <form method="POST" action="?/end-key" use:enhance class="flex items-center gap-3">
        <input type="hidden" name="id" value={key.id} />
        <p class="min-w-0 flex-1">
          <span class="block truncate">{key.name}</span>
          <span class="soft text-[13px]"
            >may {keyMay[key.may]}, until {day(key.expires)}{key.used ? `, last used ${day(key.used)}` : ', never used'}</span
          >
        </p>
        <button class="act" aria-label="End the key {key.name}">End</button>
      </form>
    {/each}
    <form method="POST" action="?/make-key" use:enhance class="flex flex-wrap items-end gap-2">
      <label class="flex min-w-[150px] flex-1 flex-col gap-1"
        ><span class="soft">For</span><input class="field h-9" name="name" required maxlength="80" placeholder="our build" /></label
      >
      <label class="flex flex-col gap-1"
        ><span class="soft">May</span><select class="field h-9" name="may"
          >{#each Object.entries(keyMay) as [may, means] (may)}<option value={may}>{means}</option>{/each}</select
        ></label
      >
      <label class="flex flex-col gap-1"
        ><span class="soft">For so long</span><select class="field h-9" name="days"
          >{#each KEY_DAYS as days (days)}<option value={days} selected={days === 90}>{days === 365 ? 'a year' : `${days} days`}</option
            >{/each}</select
        ></label
      >
      <button class="act h-9">Make a key</button>
    </form>
  </section>
  <a class="soft self-start underline" href="/">To the Workroom</a>
</Doorway>
