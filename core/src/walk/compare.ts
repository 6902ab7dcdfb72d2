import { printLine } from '../lines/line.ts';
import { scopeFor } from '../lines/scope.ts';
import type { Piece } from '../piece/piece.ts';
import type { Program } from '../program/program.ts';
import { replay, start } from '../run/run.ts';
import { count } from '../words.ts';
import type { Audit } from './audit.ts';
import { isComplete } from './live.ts';
import { startOf } from './explore.ts';
import type { Finding } from './finding.ts';

/** What is otherwise between two versions of a piece, by what they do. */

export interface Version {
  readonly program: Program;
  readonly audit: Audit;
}

export type ChangeKind =
  | 'reached'
  | 'not reached'
  | 'fires'
  | 'does not fire'
  | 'longer'
  | 'shorter'
  | 'leads elsewhere'
  | 'new loose end'
  | 'mended';

export interface Change {
  readonly kind: ChangeKind;
  /** One sentence, as people say it. */
  readonly sentence: string;
  readonly scene: string | null;
}

/** All that a person would find otherwise, in the order of what matters: ways, branches, steps, loose ends. */
export function compareVersions(before: Version, after: Version): readonly Change[] {
  return [...framesBetween(before, after), ...branchesBetween(before, after), ...endsBetween(before, after)];
}

const nameIn = (piece: Piece, scene: string) => piece.scenes.get(scene)?.name ?? 'a frame that is gone';

function framesBetween(before: Version, after: Version): Change[] {
  const [a, b] = [before.audit.exploration, after.audit.exploration];
  const changes: Change[] = [];
  for (const frame of new Set([...a.reached.keys(), ...b.reached.keys()])) {
    const [was, is] = [a.reached.get(frame), b.reached.get(frame)];
    const name = nameIn((is === undefined ? before : after).program.piece, frame);
    if (was === undefined || is === undefined) {
      const other = was === undefined ? a : b;
      // What was cut may lead there all the same.
      if (!isComplete(other)) continue;
      const kind = was === undefined ? 'reached' : 'not reached';
      const isGone = was !== undefined && !after.program.scenes.has(frame);
      const isNew = was === undefined && !before.program.scenes.has(frame);
      const said = isGone ? 'is gone' : isNew ? 'is new, and can be reached' : kind === 'reached' ? 'can be reached now' : 'can no longer be reached';
      changes.push({ kind, sentence: `${name} ${said}.`, scene: frame });
      continue;
    }
    const events = a.routeTo(was);
    const [steps, now] = [events.length, b.routeTo(is).length];
    if (now !== steps) {
      const more = Math.abs(now - steps);
      const kind = now > steps ? 'longer' : 'shorter';
      changes.push({
        kind,
        sentence: `${name} takes ${count(more, 'step')} ${now > steps ? 'more' : 'less'} (${now} instead of ${steps}).`,
        scene: frame,
      });
    }
    const begun = start(after.program, startOf(a, was));
    const end = begun && replay(after.program, begun, events).run;
    const isThere = end && (end.frame === frame || end.overlays.some((one) => one.frame === frame));
    if (isThere) continue;
    const to = end ? nameIn(after.program.piece, end.frame) : 'nowhere';
    changes.push({ kind: 'leads elsewhere', sentence: `The way that led to ${name} now leads to ${to}.`, scene: frame });
  }
  return changes;
}

function branchesBetween(before: Version, after: Version): Change[] {
  const [a, b] = [before.audit.exploration, after.audit.exploration];
  const changes: Change[] = [];
  for (const id of new Set([...a.fired, ...b.fired])) {
    if (a.fired.has(id) === b.fired.has(id)) continue;
    const isNow = b.fired.has(id);
    const [own, other] = isNow ? [after, before] : [before, after];
    if (!isComplete(isNow ? a : b)) continue;
    const thread = own.program.piece.threads.get(id)!;
    const line = printLine(thread, scopeFor(own.program.piece, thread));
    const owner = thread.on === 'layer' ? own.program.piece.layers.get(thread.owner)?.name : own.program.piece.scenes.get(thread.owner)?.name;
    const isElsewhere = other.program.piece.threads.has(id);
    const said = isNow ? (isElsewhere ? 'fires now' : 'is new') : isElsewhere ? 'no longer fires' : 'is gone';
    changes.push({ kind: isNow ? 'fires' : 'does not fire', sentence: `${owner ?? 'The piece'}: “${line}” ${said}.`, scene: null });
  }
  return changes;
}

function endsBetween(before: Version, after: Version): Change[] {
  const [a, b] = [before, after].map(({ audit }) => new Map([...audit.findings, ...audit.aside].map((one) => [one.id, one] as const)));
  const words = (one: Finding) => `${one.title}: ${one.sentence}`;
  return [
    ...[...b!.values()]
      .filter(({ id }) => !a!.has(id))
      .map((one): Change => ({ kind: 'new loose end', sentence: words(one), scene: one.place.scene })),
    ...[...a!.values()].filter(({ id }) => !b!.has(id)).map((one): Change => ({ kind: 'mended', sentence: words(one), scene: one.place.scene })),
  ];
}
