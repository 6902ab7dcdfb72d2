<script lang="ts">
  import { max } from 'd3-array';
  import { scaleLinear } from 'd3-scale';
  import type { ResultTrail } from '$lib/shared/types';

  /** How many steps each took, against the shortest way. */
  interface Props {
    goes: readonly ResultTrail[];
    shortest: number | null;
    nameOf: (holder: string) => string;
  }
  let { goes, shortest, nameOf }: Props = $props();

  const WIDTH = 560;
  const ROW = 20;
  const stepsOf = (go: ResultTrail) => go.reached?.steps ?? go.steps?.length ?? 0;
  const sorted = $derived([...goes].sort((a, b) => Number(b.reached !== null) - Number(a.reached !== null) || stepsOf(a) - stepsOf(b)).slice(0, 40));
  const x = $derived(scaleLinear([0, Math.max(shortest ?? 0, max(goes, stepsOf) ?? 0, 1)], [130, WIDTH - 40]).nice());
  const height = $derived(sorted.length * ROW + 26);
</script>

<svg viewBox="0 0 {WIDTH} {height}" class="w-full max-w-[640px]" role="img" aria-label="Steps of each, against the shortest way">
  {#each x.ticks(6).filter(Number.isInteger) as tick (tick)}
    <line x1={x(tick)} x2={x(tick)} y1="4" y2={height - 20} stroke="var(--line)" />
    <text x={x(tick)} y={height - 6} text-anchor="middle" font-size="12" fill="var(--soft)">{tick}</text>
  {/each}
  {#if shortest !== null}<line
      x1={x(shortest)}
      x2={x(shortest)}
      y1="2"
      y2={height - 20}
      stroke="var(--teal)"
      stroke-width="2"
      stroke-dasharray="5 4"
    />{/if}
  {#each sorted as go, i (go.id)}
    {@const y = i * ROW + 14}
    <text x="120" {y} dy="4" text-anchor="end" font-size="12.5" fill="var(--ink)">{nameOf(go.holder).slice(0, 18)}</text>
    <line x1={x(0)} x2={x(stepsOf(go))} y1={y} y2={y} stroke="var(--gold)" stroke-width="3" stroke-dasharray={go.reached ? undefined : '6 5'} />
    {#if go.reached}<circle cx={x(stepsOf(go))} cy={y} r="5" fill="var(--teal)" />{:else}
      <path d="M-5-5L5 5M5-5L-5 5" transform="translate({x(stepsOf(go))} {y})" stroke="var(--brick)" stroke-width="2.5" fill="none" />{/if}
  {/each}
</svg>
{#if goes.length > 40}<p class="soft">{goes.length - 40} others are not drawn.</p>{/if}
