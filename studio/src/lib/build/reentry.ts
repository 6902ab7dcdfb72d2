import type { Layer } from '@zany/core';
import { setLayer } from './acts';
import type { EditorSession } from '$lib/client/session.svelte';

/** What the time of a placed part does when it comes again. */
export const REENTRY = [
  { value: 'start over' as const, label: 'start over', hint: 'at its beginning' },
  { value: 'go on' as const, label: 'go on', hint: 'where it was' },
  { value: 'once' as const, label: 'play only once', hint: 'stays at its end' },
];

export const reentryOf = (layer: Layer) => REENTRY.find(({ value }) => value === (layer.reentry ?? 'start over'))!;

export const setReentry = (session: EditorSession, ids: readonly string[], value: (typeof REENTRY)[number]['value']): boolean =>
  setLayer(session, ids, `On return ${value}`, ['reentry'], value === 'start over' ? undefined : value);
