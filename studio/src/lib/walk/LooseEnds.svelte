<script lang="ts">
  import {
    asideKey,
    count,
    framesShowing,
    groupedBy,
    markOf,
    rules,
    setAside,
    severityWords,
    takeUpAgain,
    type Finding,
    type Severity,
  } from '@zany/core';
  import AskLine from '$lib/shared/AskLine.svelte';
  import ChipMenu from '$lib/shared/ChipMenu.svelte';
  import { useSession } from '$lib/shared/desk.svelte';
  import Thumb from '$lib/shared/Thumb.svelte';
  import RuleWords from './RuleWords.svelte';

  interface Props {
    chosen: string | null;
    showing: string;
    /** The frames that the chosen one's route goes through. */
    routeOf: (finding: Finding) => string[];
    onchoose: (finding: Finding) => void;
    onshow: (finding: Finding) => void;
    onopen: (finding: Finding) => void;
  }
  let { chosen, showing, routeOf, onchoose, onshow, onopen }: Props = $props();

  const session = useSession();

  const severities: readonly Severity[] = ['must', 'look', 'note'];
  const marks: Record<Severity, string> = { must: '✕', look: '!', note: '·' };
  const words = new Map(rules.map((rule) => [rule.id, rule.words]));

  let left: Severity[] = $state([]);
  let rule: string | null = $state(null);
  let here = $state(false);
  let opened: string[] = $state([]);
  /** The one of which it is asked what it means. */
  let asked: string | null = $state(null);
  /** Those that are looked at one by one, though they are alike; and of which all places are shown. */
  let apart: string[] = $state([]);
  let wide: string[] = $state([]);
  /** The one that is being set aside. */
  let setting: string | null = $state(null);

  /** In a long list so many of one kind are folded into one line until somebody wants them. */
  const MANY = 12;
  const LONG = 30;
  /** So many of which the same is said are one, in as many places; of which so many are shown. */
  const ALIKE = 3;
  const PLACES = 6;

  const isHere = (finding: Finding) => {
    const frame = session.run?.frame;
    return frame !== undefined && finding.place.scene !== null && framesShowing(session.program, finding.place.scene).includes(frame);
  };
  const inSight = $derived(session.findings.filter((finding) => (rule === null || finding.rule === rule) && (!here || isHere(finding))));
  const numbers = $derived(new Map(severities.map((one) => [one, inSight.filter(({ severity }) => severity === one).length])));
  const kinds = $derived([...new Set(session.findings.map((finding) => finding.rule))]);
  const groups = $derived(
    severities
      .filter((severity) => !left.includes(severity) && numbers.get(severity))
      .map((severity) => {
        const byRule = groupedBy(
          inSight.filter((finding) => finding.severity === severity),
          (finding) => finding.rule
        );
        return { severity, rules: [...byRule].map(([id, findings]) => ({ id, findings, alike: together(findings) })) };
      })
  );
  const isFolded = (severity: Severity, { id, findings, alike }: (typeof groups)[number]['rules'][number]) =>
    rule === null &&
    inSight.length > LONG &&
    alike.length > MANY &&
    !opened.includes(`${severity} ${id}`) &&
    !findings.some((finding) => finding.id === chosen);

  const sceneOf = ({ place }: Finding) => session.piece.scenes.get(place.scene ?? '')?.name;

  /** What is said of one, wherever it is. */
  const wordsOf = (finding: Finding) =>
    JSON.stringify([finding.rule, finding.title, finding.sentence.replaceAll(sceneOf(finding) ?? finding.sentence, '…')]);

  /** Those of which the same is said, together; all others alone. */
  const together = (findings: readonly Finding[]): readonly (readonly Finding[])[] =>
    [...groupedBy(findings, wordsOf)].flatMap(([key, alike]) =>
      alike.length >= ALIKE && !apart.includes(key) ? [alike] : alike.map((one) => [one])
    );

  /** Of many places the first, and the chosen one. */
  const placesOf = (alike: readonly Finding[]) =>
    wide.includes(wordsOf(alike[0]!)) ? alike : alike.filter(({ id }, i) => i < PLACES || id === chosen);

  /** The layers or the frames that some are about: the frames where the layers are all called the same. */
  function namesOf(findings: readonly Finding[]): string[] {
    const names = findings.map((one) => session.piece.layers.get(one.place.layer ?? '')?.name ?? sceneOf(one) ?? one.title);
    return new Set(names).size > 1 ? names : findings.map((one, i) => sceneOf(one) ?? names[i]!);
  }

  /** The scene it is in, where nothing else that is said of it names that. */
  function whereIs(finding: Finding): string | null {
    const scene = sceneOf(finding);
    return scene === undefined || finding.title.includes(scene) || finding.sentence.includes(scene) ? null : scene;
  }

  function mend(findings: readonly Finding[]) {
    const [{ fix }] = findings as [Finding];
    session.edit(
      fix!.label,
      findings.flatMap((one) => one.fix!.operations)
    );
    // What was asked for in a comment and is there now, is answered.
    for (const { id, rule } of findings) if (rule === 'asked-for') void session.comments.resolve(id.slice(rule.length + 1), true);
  }

  /** Those that were set aside, together where the same was said of them, and why. */
  const asideTogether = $derived([...groupedBy(session.findingsAside, (one) => wordsOf(one) + one.reason).values()]);

  const takeUp = (findings: readonly Finding[]) =>
    session.edit(
      findings.length > 1 ? `Take ${findings.length} loose ends up again` : 'Take a loose end up again',
      findings.flatMap((one) => takeUpAgain(session.piece, asideKey(one)))
    );

  function putAside(findings: readonly Finding[], reason: string) {
    const operations = findings.flatMap((one) => setAside(session.piece, asideKey(one), reason, markOf(session.piece, one)));
    session.edit(findings.length > 1 ? `Set ${findings.length} loose ends aside` : 'Set a loose end aside', operations);
    setting = null;
  }
</script>

{#snippet one(finding: Finding, alike: readonly Finding[])}
  {@const route = chosen === finding.id ? routeOf(finding) : []}
  {@const many = alike.length > 1}
  {@const where = many ? `${alike.length} places` : whereIs(finding)}
  <article
    class="relative border-t border-[var(--line)] px-3.5 py-2 {chosen === finding.id ? 'bg-[var(--gold-wash)]' : ''}"
    aria-label={finding.title}
    data-finding={finding.id}
  >
    {#if chosen === finding.id}<span class="absolute bottom-0 left-0 top-0 w-1 bg-[var(--gold)]"></span>{/if}
    <div class="flex gap-2">
      <span
        class="w-3 shrink-0 text-center font-bold {finding.severity === 'must' ? 'text-[var(--brick)]' : 'text-[var(--gold-text)]'}"
        aria-label={severityWords[finding.severity]}>{marks[finding.severity]}</span
      >
      <div class="min-w-0 flex-1">
        <div class="flex items-baseline justify-between gap-2">
          <button class="text-left font-semibold" onclick={() => onchoose(finding)}>{finding.title}</button>
          {#if where !== null}<span class="soft max-w-[45%] shrink-0 truncate" title={where}>{where}</span>{/if}
        </div>
        <p class="soft">{finding.sentence}{alike.some(({ sentence }) => sentence !== finding.sentence) ? ' So it is in the others.' : ''}</p>
        {#if many}
          {@const shown = placesOf(alike)}
          <div class="mt-1 flex flex-wrap gap-1" role="group" aria-label="Where it is so">
            {#each shown as place (place.id)}
              <button
                class="chip {chosen === place.id ? 'chip-teal' : 'chip-ghost'} max-w-full truncate"
                aria-pressed={chosen === place.id}
                onclick={() => onchoose(place)}>{sceneOf(place) ?? 'the piece'}</button
              >
            {/each}
            {#if shown.length < alike.length}<button
                class="chip chip-ghost"
                aria-label="{alike.length - shown.length} more places of {finding.title}"
                onclick={() => (wide = [...wide, wordsOf(finding)])}>{alike.length - shown.length} more</button
              >{/if}
            <button class="chip chip-ghost" onclick={() => (apart = [...apart, wordsOf(finding)])}>one by one</button>
          </div>
        {/if}
        {#if route.length > 1}
          <div class="my-1.5 flex flex-wrap items-center gap-y-1">
            {#each route.slice(-7) as frame, i (i)}
              {#if i > 0}<span class="w-3 border-t-2 border-dashed border-[var(--gold)]"></span>{/if}
              <span class="border border-[var(--soft)]" title={session.piece.scenes.get(frame)?.name}
                ><Thumb scene={session.program.scenes.get(frame) ?? null} assetUrl={session.assetUrl} width={26} height={40} radius={2} /></span
              >
            {/each}
          </div>
        {/if}
        {#if setting === finding.id}
          <div class="mt-1">
            <AskLine
              label="Why it is no matter"
              placeholder="why it is no matter"
              act="Set aside"
              most={500}
              class="min-w-0 flex-1"
              onsay={(reason) => putAside(alike, reason)}
              onclose={() => (setting = null)}
            />
          </div>
        {:else}
          <div class="mt-1 flex flex-wrap gap-1">
            <button class="chip {chosen === finding.id ? '!bg-[var(--teal)] !text-white' : ''}" onclick={() => onshow(finding)}
              >{showing === finding.id ? 'showing…' : 'Show me'}</button
            >
            {#if session.canEdit && finding.fix && alike.every(({ fix }) => fix?.label === finding.fix?.label)}
              <button class="chip" onclick={() => mend(alike)}>{finding.fix.label}{many ? ', everywhere' : ''}</button>
            {/if}
            <button class="chip chip-ghost" onclick={() => onopen(finding)}>open it</button>
            {#if session.canEdit}<button class="chip chip-ghost" onclick={() => (setting = finding.id)}>{many ? 'all aside…' : 'aside…'}</button>{/if}
            <button
              class="chip chip-ghost"
              aria-expanded={asked === finding.id}
              aria-label="What is this: {finding.title}"
              title="What this rule finds, and what it lets be"
              onclick={() => (asked = asked === finding.id ? null : finding.id)}>?</button
            >
          </div>
        {/if}
        {#if asked === finding.id}<RuleWords rule={finding.rule} />{/if}
      </div>
    </div>
  </article>
{/snippet}

{#if session.findings.length}
  <div class="flex flex-wrap items-center gap-1.5 px-3.5 pb-2" role="group" aria-label="Which loose ends">
    {#each severities as severity (severity)}
      {#if numbers.get(severity) || left.includes(severity)}
        <button
          class="chip {left.includes(severity) ? 'chip-ghost line-through' : ''}"
          aria-pressed={!left.includes(severity)}
          title={severityWords[severity]}
          onclick={() => (left = left.includes(severity) ? left.filter((one) => one !== severity) : [...left, severity])}
          ><span class="font-bold {severity === 'must' ? 'text-[var(--brick)]' : 'text-[var(--gold-text)]'}">{marks[severity]}</span>
          {severityWords[severity]}
          <span class="soft">{numbers.get(severity)}</span></button
        >
      {/if}
    {/each}
    <button class="chip {here ? 'chip-teal' : 'chip-ghost'}" aria-pressed={here} onclick={() => (here = !here)}>this frame</button>
    {#if kinds.length > 1}
      <ChipMenu
        name="Kind of loose end"
        label={rule === null ? 'every kind' : (words.get(rule) ?? rule)}
        tone={rule === null ? 'chip-ghost' : 'chip-teal'}
        filter
        options={[
          { value: null, label: 'every kind' },
          ...kinds.map((id) => ({
            value: id,
            label: words.get(id) ?? id,
            hint: String(session.findings.filter((finding) => finding.rule === id).length),
          })),
        ]}
        onpick={(value: string | null) => (rule = value)}
      />
    {/if}
  </div>
{/if}

{#each groups as group (group.severity)}
  <h3 class="border-t border-[var(--line)] bg-[var(--rim)] px-3.5 py-1 text-[12px]">
    {severityWords[group.severity]} <span class="soft">{numbers.get(group.severity)}</span>
  </h3>
  {#each group.rules as kind (kind.id)}
    {@const { id, findings } = kind}
    {#if isFolded(group.severity, kind)}
      <button
        class="flex w-full items-baseline gap-2 border-t border-[var(--line)] px-3.5 py-2 text-left hover:bg-[var(--rim)]"
        aria-expanded="false"
        onclick={() => (opened = [...opened, `${group.severity} ${id}`])}
      >
        <span class="w-3 shrink-0 text-center">▸</span>
        <span class="shrink-0 font-semibold">{words.get(id)}</span>
        <span class="soft min-w-0 truncate">{count(findings.length, 'place')}: {namesOf(findings.slice(0, 12)).join(', ')}</span>
      </button>
    {:else}
      {#each kind.alike as alike (alike[0]!.id)}{@render one(alike.find(({ id }) => id === chosen) ?? alike[0]!, alike)}{/each}
    {/if}
  {/each}
{:else}
  {#if session.audit}<p class="border-t border-[var(--line)] px-3.5 py-4">
      {session.findings.length
        ? 'None of these here.'
        : session.audit.cut
          ? 'No loose end as far as it was explored. What lies beyond has not been looked at.'
          : 'Everything was explored, and nothing that the walk looks for was found.'}
    </p>{/if}
{/each}

{#if session.findingsAside.length}
  <details class="border-t border-[var(--line)]">
    <summary class="cursor-pointer bg-[var(--rim)] px-3.5 py-1 text-[12px]"
      >set aside <span class="soft">{session.findingsAside.length}</span></summary
    >
    {#each asideTogether as alike (alike[0]!.id)}
      {@const [finding] = alike as [(typeof alike)[number]]}
      <div class="border-t border-[var(--line)] px-3.5 py-2" role="group" aria-label="{finding.title}, set aside">
        <p class="flex items-baseline justify-between gap-2">
          <span class="font-semibold">{finding.title}</span>
          {#if alike.length > 1}<span class="soft shrink-0">{count(alike.length, 'place')}</span>{/if}
        </p>
        <p class="soft">{finding.sentence}</p>
        <p>“{finding.reason}”</p>
        {#if session.canEdit}<button class="chip chip-ghost mt-1" onclick={() => takeUp(alike)}>take up again</button>{/if}
      </div>
    {/each}
  </details>
{/if}
