import { labelOf } from '../vocabulary/steps/all.ts';
import { scenesOf, type Piece, type Scene, type Thread } from '../piece/piece.ts';
import type { Timeline } from '../piece/schema.ts';
import type { Program } from '../program/program.ts';

/** The scenes that have a timeline, of every use. */
export const scenesInTime = ({ piece }: Program): { scene: Scene; timeline: Timeline }[] =>
  (['frame', 'part', 'sheet'] as const).flatMap((use) =>
    scenesOf(piece, use).flatMap((scene) => (scene.timeline ? [{ scene, timeline: scene.timeline }] : []))
  );

/** Labels that something plays or shows by itself: threads, and endings that go there. */
export function labelsAsked({ piece }: Program): ReadonlySet<string> {
  const asked = new Set<string>();
  for (const thread of piece.threads.values())
    if (thread.enabled)
      for (const step of thread.branches.flatMap((branch) => branch.steps)) {
        const label = labelOf(step);
        if (label !== null) asked.add(label);
        if (step.do === 'section') for (const label of labelsTurned(piece, thread, step.of)) asked.add(label);
      }
  return asked;
}

/** Whoever turns from section to section comes to each of them. */
export function labelsTurned(piece: Piece, { on, owner }: Thread, of: string | undefined): string[] {
  const last = of?.split('/').at(-1);
  const layer = last === undefined && on === 'layer' ? piece.layers.get(owner) : undefined;
  const scene = last === undefined ? (on === 'scene' ? owner : layer?.scene) : piece.layers.get(last)?.part;
  return Object.keys((scene === undefined ? undefined : piece.scenes.get(scene))?.timeline?.labels ?? {});
}
