import type { Point } from '../program/geometry.ts';
import { layersAt, outward } from '../program/hit.ts';
import type { Item, Program, SceneProgram } from '../program/program.ts';
import { cueKind, keyWords } from '../cues/kinds.ts';
import type { WhyNot } from './state.ts';

/** Why a click did nothing: what lies at the point, and what keeps each thread there from firing. */
export function whyNoClick(scene: SceneProgram, catcher: Item | null, point: Point): WhyNot[] {
  const there = layersAt(scene, point);
  const covered = catcher ? coveredBy(there, catcher) : [];
  const receivers = catcher ? outward(catcher) : [];
  const clues = (catcher ? receivers : there).flatMap(clueOf);
  if (covered.length || clues.length) return [...covered, ...clues];
  const top = catcher ?? there[0];
  if (!top) return [{ code: 'nothing-there', sentence: `Nothing is there, and ${scene.scene.name} itself is not wired.` }];
  return [{ code: 'not-wired', sentence: `${top.layer.name} is not wired.`, layer: top.layer.id }];
}

const coveredBy = (there: readonly Item[], catcher: Item): WhyNot[] =>
  there
    .filter((item) => !outward(catcher).includes(item) && item.threads.some((thread) => thread.enabled && thread.cue.type === 'click'))
    .map((item) => ({
      code: 'covered',
      sentence: `${catcher.layer.name} lies in front of ${item.layer.name} and takes the press.`,
      layer: item.layer.id,
    }));

/** A thread of the layer that is for something else, or switched off. */
const clueOf = (item: Item): WhyNot[] =>
  item.threads.map((thread) =>
    thread.enabled
      ? {
          code: 'other-cue' as const,
          sentence: `${item.layer.name} has a thread, but not for a click: ${cueKind(thread.cue.type).when(thread.cue)}.`,
          layer: item.layer.id,
          thread: thread.id,
        }
      : { code: 'switched-off' as const, sentence: `A thread of ${item.layer.name} is switched off.`, layer: item.layer.id, thread: thread.id }
  );

export function whyNoKey(program: Program, scene: SceneProgram, key: string): WhyNot[] {
  const off = [...scene.items.flatMap((item) => item.threads), ...scene.threads, ...program.threads].filter(
    (thread) => !thread.enabled && thread.cue.type === 'key' && thread.cue.key.toLowerCase() === key.toLowerCase()
  );
  if (off.length)
    return off.map((thread) => ({ code: 'switched-off', sentence: `The thread for ${keyWords(key)} is switched off.`, thread: thread.id }));
  return [{ code: 'no-thread', sentence: `No thread here waits for ${keyWords(key)}.` }];
}
