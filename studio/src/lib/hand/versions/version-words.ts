import { clockOf, dayOf } from '$lib/shared/moments';
import type { PieceVersion } from '$lib/shared/types';
import type { Which } from './versions.svelte';

/** What a version is called where there is one line for it. */
export function versionName(which: Which, list: readonly PieceVersion[] | null): string {
  if (which === null) return 'now';
  const found = list?.find(({ revision }) => revision === which);
  if (found?.name) return `“${found.name}”`;
  if (which === 0) return 'the beginning';
  return found ? `${dayOf(found.at)}, ${clockOf(found.at)}` : `edit ${which}`;
}

/** Versions by the day they came about on, the latest first. */
export function byDay(list: readonly PieceVersion[]): { readonly day: string; readonly versions: readonly PieceVersion[] }[] {
  const days: { day: string; versions: PieceVersion[] }[] = [];
  for (const version of list) {
    const day = dayOf(version.at);
    const last = days.at(-1);
    if (last?.day === day) last.versions.push(version);
    else days.push({ day, versions: [version] });
  }
  return days;
}
