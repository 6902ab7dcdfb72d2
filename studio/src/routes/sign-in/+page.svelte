<script lang="ts">
  import { enhance } from '$app/forms';
  import Logo from '$lib/shared/Logo.svelte';
  import type { ActionData, PageData } from './$types';

  let { data, form }: { data: PageData; form: ActionData } = $props();
  /** An account was asked for just now: sign in with it. */
  const made = $derived(form !== null && 'made' in form);
  const isNew = $derived(data.isNew && !made);
  const back = $derived(data.back === '/' ? [] : [`back=${encodeURIComponent(data.back)}`]);
  const withQuery = (...parts: readonly string[]) => `/sign-in?${[...parts, ...back].join('&')}`;
  const action = (name: string, ...more: readonly string[]) => withQuery(`/${name}`, ...more);

  $effect(() => {
    if (made) document.querySelector<HTMLInputElement>('input[name=password]')?.focus();
  });
</script>

<svelte:head><title>Sign in · Zany Thread</title></svelte:head>

<main class="grid h-screen grid-cols-[minmax(0,1fr)_420px] max-md:grid-cols-1">
  <section class="linen-ground relative grid place-items-center overflow-hidden max-md:hidden" aria-hidden="true">
    <svg viewBox="0 0 640 520" class="w-[78%] max-w-[720px]">
      <g fill="var(--sheet)" stroke="var(--line)" stroke-width="2">
        <rect x="40" y="120" width="150" height="260" rx="18" />
        <rect x="245" y="60" width="150" height="260" rx="18" />
        <rect x="450" y="180" width="150" height="260" rx="18" />
      </g>
      <g fill="#1f4e5f"
        ><path d="M40 138a18 18 0 0118-18h114a18 18 0 0118 18v26H40z" /><path d="M245 78a18 18 0 0118-18h114a18 18 0 0118 18v26H245z" /><path
          d="M450 198a18 18 0 0118-18h114a18 18 0 0118 18v26H450z"
        /></g
      >
      <g fill="#cfe1ea"><rect x="58" y="184" width="114" height="70" rx="8" /><rect x="468" y="244" width="114" height="70" rx="8" /></g>
      <g fill="#f0b13c"><rect x="58" y="318" width="114" height="34" rx="10" /><rect x="263" y="200" width="114" height="34" rx="10" /></g>
      <g fill="#eadfc9"
        ><rect x="263" y="124" width="114" height="26" rx="8" /><rect x="263" y="246" width="114" height="26" rx="8" /><rect
          x="468"
          y="334"
          width="80"
          height="14"
          rx="7"
        /></g
      >
      <g fill="none" stroke="var(--gold)" stroke-width="4" stroke-dasharray="10 8" stroke-linecap="round">
        <path d="M172 335c60 0 20-160 73-170" /><path d="M377 217c70 0 20 90 73 96" />
      </g>
      <g fill="var(--sheet)" stroke="var(--gold)" stroke-width="4"><circle cx="246" cy="165" r="7" /><circle cx="451" cy="313" r="7" /></g>
      <g fill="var(--gold)"><circle cx="172" cy="335" r="7" /><circle cx="377" cy="217" r="7" /></g>
    </svg>
  </section>

  <section class="flex flex-col justify-center gap-5 bg-[var(--sheet)] px-12">
    <div class="flex items-center gap-3">
      <Logo /><span class="text-[22px]" style="font-family: var(--heading); font-weight: 700">Zany Thread</span>
    </div>
    <p class="soft text-[15px]">Wire it, try it, and walk every flow until no loose end is left.</p>

    {#if data.demo}
      <form method="POST" action={action('demo')} use:enhance>
        <button class="act act-go h-10 w-full justify-center text-[14px]">Look around as Ina of Kittiwake Line</button>
      </form>
      <div class="soft flex items-center gap-3">
        <span class="h-px flex-1 bg-[var(--line)]"></span>or<span class="h-px flex-1 bg-[var(--line)]"></span>
      </div>
    {/if}

    {#if data.elsewhere}
      <a class="act h-10 w-full justify-center text-[14px]" href="/sign-in/elsewhere?back={encodeURIComponent(data.back)}"
        >Sign in with {data.elsewhere}</a
      >
    {/if}
    {#if data.problem && !form}<p role="alert" class="text-[var(--brick-text)]">{data.problem}</p>{/if}

    <form method="POST" action={isNew ? action('register', 'new') : action('enter')} use:enhance class="flex flex-col gap-3">
      {#if isNew}
        <label class="flex flex-col gap-1"
          ><span class="soft">Your name</span><input class="field h-9" name="name" autocomplete="name" required value={form?.name ?? ''} /></label
        >
      {/if}
      <label class="flex flex-col gap-1"
        ><span class="soft">E-mail</span><input
          class="field h-9"
          name="email"
          type="email"
          autocomplete="username"
          required
          value={form?.email ?? ''}
        /></label
      >
      <label class="flex flex-col gap-1">
        <span class="soft">Password{isNew ? `, ${data.leastPassword} signs or more` : ''}</span>
        <input class="field h-9" name="password" type="password" autocomplete={isNew ? 'new-password' : 'current-password'} required />
      </label>
      {#if data.hasNewPassword && !form}<p role="status">Your password is changed. Sign in with it.</p>{/if}
      {#if made && !isNew}<p role="status">If this address was free, the account is made. Sign in with it.</p>{/if}
      {#if form?.problem}<p role="alert" class="text-[var(--brick-text)]">{form.problem}</p>{/if}
      <button class="act h-9 justify-center">{isNew ? 'Make an account' : 'Sign in'}</button>
    </form>
    <p class="flex flex-wrap justify-between gap-3">
      {#if data.mayRegister}<!-- A link, so that it leads on before the page hears. -->
        <a class="soft underline" href={isNew ? withQuery() : withQuery('new')}>{isNew ? 'I have an account' : 'I am new here'}</a>{:else}<span
          class="soft">Accounts are made by invitation here.</span
        >{/if}
      {#if !isNew}<a class="soft underline" href="/forgotten">I forgot my password</a>{/if}
    </p>
  </section>
</main>
