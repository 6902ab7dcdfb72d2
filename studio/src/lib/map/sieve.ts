import type { Finding, SceneProgram } from '@zany/core';

/** Which frames somebody looks for on the map: all that is asked has to fit, and the others are drawn faint. */
export interface Sieve {
  readonly words: string;
  /** A kind, by id. */
  readonly kind: string | null;
  readonly loose: boolean;
  readonly unwalked: boolean;
  /** What is around the frame that is focused on. */
  readonly around: ReadonlySet<string> | null;
  /** What was changed since a version. */
  readonly changed: ReadonlySet<string> | null;
}

export const NO_SIEVE: Sieve = { words: '', kind: null, loose: false, unwalked: false, around: null, changed: null };

export const isOpen = ({ words, kind, loose, unwalked, around, changed }: Sieve): boolean =>
  words.trim() === '' && kind === null && !loose && !unwalked && around === null && changed === null;

export interface Known {
  readonly loose: ReadonlyMap<string, number>;
  /** Whether there is anything in a frame that was not walked. */
  readonly isUnwalked: (frame: string) => boolean;
}

export function passes({ scene }: SceneProgram, { words, kind, loose, unwalked, around, changed }: Sieve, known: Known): boolean {
  return (
    scene.name.toLowerCase().includes(words.trim().toLowerCase()) &&
    (kind === null || scene.kind === kind) &&
    (!loose || known.loose.has(scene.id)) &&
    (!unwalked || known.isUnwalked(scene.id)) &&
    (around === null || around.has(scene.id)) &&
    (changed === null || changed.has(scene.id))
  );
}

/** Loose ends by the frame they are in. */
export function looseIn(findings: readonly Finding[]): Map<string, number> {
  const found = new Map<string, number>();
  for (const { place } of findings) if (place.scene !== null) found.set(place.scene, (found.get(place.scene) ?? 0) + 1);
  return found;
}
