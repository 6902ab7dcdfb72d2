import { clampTime, mapped, type Timeline } from './timeline.ts';

/** When layers are there: always, unless they are given spans. */

/** Gives layers one span each, in place of those they have. */
export function setSpan(timeline: Timeline, layers: readonly string[], from: number, to: number, makeId: () => string): Timeline {
  const last = timeline.length - 1;
  const [a, b] = [clampTime(Math.min(from, to), 0, last), clampTime(Math.max(from, to), 0, last)];
  const rest = clearSpans(timeline, layers);
  return { ...rest, spans: { ...rest.spans, ...Object.fromEntries(layers.map((layer) => [makeId(), { layer, from: a, to: b }])) } };
}

/** Layers that are always there again. */
export const clearSpans = (timeline: Timeline, layers: readonly string[]): Timeline =>
  timeline.spans ? { ...timeline, spans: mapped(timeline.spans, (span) => (layers.includes(span.layer) ? null : span)) } : timeline;

/** Moves one span, or one of its ends; it keeps at least one frame. */
export function moveSpan(timeline: Timeline, id: string, by: { readonly from?: number; readonly to?: number }): Timeline {
  const span = timeline.spans?.[id];
  if (!span) return timeline;
  const last = timeline.length - 1;
  const isWhole = by.from !== undefined && by.from === by.to;
  const shift = isWhole ? clampTime(by.from!, -span.from, last - span.to) : 0;
  const from = isWhole ? span.from + shift : clampTime(span.from + (by.from ?? 0), 0, span.to);
  const to = isWhole ? span.to + shift : clampTime(span.to + (by.to ?? 0), span.from, last);
  return { ...timeline, spans: { ...timeline.spans, [id]: { ...span, from, to } } };
}

/** Makes spans that reach a moment reach on to another one: *extend*. */
export function extendSpans(timeline: Timeline, layers: readonly string[], to: number): Timeline {
  const last = clampTime(to, 0, timeline.length - 1);
  return {
    ...timeline,
    spans: mapped(timeline.spans ?? {}, (span) => (layers.includes(span.layer) && span.from <= last ? { ...span, to: last } : span)),
  };
}
