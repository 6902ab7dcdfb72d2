import type { Program } from '../program/program.ts';
import type { RunEvent } from '../run/state.ts';

/** A route in words: `Harbour: click Plan a trip, wait 500 ms`. */
export function routeWords(program: Program, from: string, events: readonly RunEvent[]): string {
  const begin = program.piece.scenes.get(from)?.name ?? from;
  return events.length ? `${begin}: ${events.map((event) => eventWords(program, event)).join(', ')}` : `${begin}, at once`;
}

/** An event as people read it. */
export function eventWords(program: Program, event: RunEvent): string {
  const layerName = (key: string | null) =>
    key === null
      ? 'scene' in event
        ? `the ground of ${program.piece.scenes.get(event.scene!)?.name ?? event.scene}`
        : 'the frame'
      : key
          .split('/')
          .map((id) => program.piece.layers.get(id)?.name ?? id)
          .join(' / ');
  switch (event.type) {
    case 'click':
      return `click ${layerName(event.layer)}`;
    case 'hover':
      return `hover ${layerName(event.layer)}`;
    case 'double-click':
      return `double-click ${layerName(event.layer)}`;
    case 'long-press':
      return `press ${layerName(event.layer)} long`;
    case 'hold':
      return `press ${layerName(event.layer)} and hold`;
    case 'let-go':
      return event.where === 'there' ? 'let go' : 'let go elsewhere';
    case 'beside':
      return 'press beside the frame laid over';
    case 'drag':
      return `drag ${layerName(event.layer)} by ${event.dx}, ${event.dy}`;
    case 'swipe':
      return `swipe ${event.direction} on ${layerName(event.layer)}`;
    case 'scroll':
      return `scroll ${layerName(event.layer)} to ${event.y}`;
    case 'focus':
      return `focus ${layerName(event.layer)}`;
    case 'value':
      return `put ${JSON.stringify(event.value)} into ${layerName(event.layer)}`;
    case 'media':
      return `${layerName(event.layer)} ${event.what}`;
    case 'pad':
      return `pad button ${event.button}`;
    case 'signal':
      return `signal ${event.signal}`;
    case 'set':
      return `set ${program.variables.get(event.variable)?.name ?? event.variable} to ${JSON.stringify(event.value)}`;
    case 'key':
      return `press ${event.key}`;
    case 'wait':
      return `wait ${Math.round(event.ms * 10) / 10} ms`;
    case 'jump':
      return `jump to ${program.piece.scenes.get(event.frame)?.name ?? event.frame}`;
    case 'leave':
      return 'leave';
    default:
      return `${event.type} at ${event.x}, ${event.y}`;
  }
}
