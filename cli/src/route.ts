import type { Program, RunEvent } from '@zany/core';

/** A route in words: `Harbour: click Plan a trip, wait 500 ms`. */
export function routeWords(program: Program, from: string, events: readonly RunEvent[]): string {
  const begin = program.piece.scenes.get(from)?.name ?? from;
  return events.length ? `${begin}: ${events.map((event) => eventWords(program, event)).join(', ')}` : `${begin}, at once`;
}

export function eventWords(program: Program, event: RunEvent): string {
  const layerName = (id: string | null) => (id === null ? 'the frame' : (program.piece.layers.get(id)?.name ?? id));
  switch (event.type) {
    case 'click':
      return `click ${layerName(event.layer)}`;
    case 'hover':
      return `hover ${layerName(event.layer)}`;
    case 'key':
      return `press ${event.key}`;
    case 'wait':
      return `wait ${event.ms} ms`;
    case 'jump':
      return `jump to ${program.piece.scenes.get(event.frame)?.name ?? event.frame}`;
    case 'leave':
      return 'leave';
    default:
      return `${event.type} at ${event.x}, ${event.y}`;
  }
}
