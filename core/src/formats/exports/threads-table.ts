import { displayExpression } from '../../expression/names.ts';
import { printCue, printStep } from '../../lines/line.ts';
import { scopeFor } from '../../lines/scope.ts';
import { framesOf, sceneOfThread, scenesOf, type Piece, type Thread } from '../../piece/piece.ts';
import { branchKey } from '../../run/runner.ts';
import { targetOf } from '../../vocabulary/steps/all.ts';
import { auditOf } from '../audited.ts';
import { csvOf } from '../csv.ts';
import { defineExport } from './define.ts';

const HEAD = ['scene', 'layer', 'cue', 'condition', 'steps', 'leads to', 'on', 'fires', 'loose ends', 'note'] as const;

/** Every branch of every thread as a row of a table (RFC 4180). */
export const threadsTable = defineExport({
  kind: 'threads',
  group: 'graph',
  label: 'Threads as a table (CSV)',
  act: 'Save the table',
  ending: '.threads.csv',
  mediaType: 'text/csv; charset=utf-8',
  meaning: 'every branch of every thread: where it stands, its cue, condition and steps, where it leads, whether it fires, its loose ends',
  walks: true,
  write: (piece) => csvOf([HEAD, ...threadRows(piece)]),
});

export function threadRows(piece: Piece): string[][] {
  const { findings, exploration } = auditOf(piece);
  const scenes = [...framesOf(piece), ...scenesOf(piece, 'sheet'), ...scenesOf(piece, 'part')];
  const places = new Map(scenes.map(({ id }, i) => [id, i] as const));
  const placeOf = (thread: Thread) => places.get(sceneOfThread(piece, thread) ?? '') ?? -1;
  const ends = new Map<string, string[]>();
  for (const { place, title } of findings) if (place.thread) ends.set(place.thread, [...(ends.get(place.thread) ?? []), title]);
  const fires = (thread: Thread, i: number) =>
    exploration.fired.has(thread.id) && exploration.branches.has(branchKey(thread.id, i)) ? 'yes' : exploration.cut === null ? 'no' : 'not found';
  return [...piece.threads.values()]
    .sort((a, b) => placeOf(a) - placeOf(b) || (a.owner < b.owner ? -1 : a.owner > b.owner ? 1 : a.order < b.order ? -1 : 1))
    .flatMap((thread) => {
      const scope = scopeFor(piece, thread);
      const scene = sceneOfThread(piece, thread);
      return thread.branches.map((branch, i) => [
        scene === null ? '' : (piece.scenes.get(scene)?.name ?? ''),
        thread.on === 'layer' ? (piece.layers.get(thread.owner)?.name ?? '') : '',
        printCue(thread.cue, scope),
        branch.if === undefined ? (i > 0 ? 'otherwise' : '') : displayExpression(branch.if, scope.expression).text,
        branch.steps.map((step) => printStep(step, scope)).join('; '),
        branch.steps.flatMap((step) => targetWords(piece, step)).join(', '),
        thread.enabled ? 'yes' : 'no',
        fires(thread, i),
        (ends.get(thread.id) ?? []).join('; '),
        thread.note ?? '',
      ]);
    });
}

function targetWords(piece: Piece, step: Thread['branches'][number]['steps'][number]): string[] {
  if (step.do === 'lay') return [piece.scenes.get(step.frame ?? '')?.name ?? 'nothing'];
  if (step.do === 'open') return [step.address];
  const target = targetOf(step);
  return target ? [target.to === 'frame' ? (piece.scenes.get(target.frame ?? '')?.name ?? 'nothing') : target.to] : [];
}
