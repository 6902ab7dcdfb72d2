import { parseEasing, type Tracked } from '@zany/core';

/** How shapes of an SVG drawing move by themselves (SMIL 3.0, as SVG 1.1 has it), as keyframes, where they are simple. */

/** The attributes of an `animate`, `animateTransform` or `set` element, with its name. */
export type Written = Readonly<Record<string, string>> & { readonly element: string };

/** The shape as it stands: its own attributes, and where it stands in the drawing. */
export interface Standing {
  readonly attributes: Readonly<Record<string, string>>;
  /** In the drawing, CSS px. */
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  /** CSS px of the drawing for one of the shape's own. */
  readonly byX: number;
  readonly byY: number;
}

export interface Key {
  readonly seconds: number;
  readonly value: number | string;
  /** How it goes on from here. */
  readonly easing: string;
}

export interface Motion {
  readonly property: Tracked;
  readonly keys: readonly Key[];
  readonly goesRound: boolean;
}

/** Motions, and what of them has no keyframes. */
export interface Motions {
  readonly motions: readonly Motion[];
  readonly left: readonly string[];
}

export function motionsOf(written: readonly Written[], shape: Standing): Motions {
  const motions: Motion[] = [];
  const left: string[] = [];
  for (const one of written) {
    const read = reading(one, shape);
    if (read) motions.push(...read);
    else left.push(one['attributeName'] ?? one['type'] ?? one.element);
  }
  return { motions, left };
}

/** What is animated, by its attribute: the property, and its value for a written one. */
type Way = readonly [property: Tracked, valueOf: (written: string) => number | string | null];

function waysOf({ element, ...written }: Written, shape: Standing): readonly Way[] | null {
  const { attributes, x, y, width, height, byX, byY } = shape;
  const base = (name: string) => parseFloat(attributes[name] ?? '0') || 0;
  const along = (from: number, of: number, by: number) => (text: string) => number(text, (value) => from + (value - of) * by);
  if (element === 'animateTransform') {
    const pair = (at: 0 | 1) => (text: string) => {
      const numbers = text
        .trim()
        .split(/[\s,]+/)
        .map(Number);
      const value = numbers[at] ?? (at === 0 ? NaN : 0);
      return Number.isFinite(value) ? value : null;
    };
    const shifted = (from: number, by: number, at: 0 | 1) => (text: string) => {
      const value = pair(at)(text);
      return value === null ? null : from + value * by;
    };
    if (written['type'] === 'translate')
      return [
        ['x', shifted(x, byX, 0)],
        ['y', shifted(y, byY, 1)],
      ];
    if (written['type'] === 'rotate') return [['rotation', aboutMiddle(shape)]];
    return null;
  }
  switch (written['attributeName']) {
    case 'x':
      return [['x', along(x, base('x'), byX)]];
    case 'cx':
      return [['x', along(x, base('cx'), byX)]];
    case 'y':
      return [['y', along(y, base('y'), byY)]];
    case 'cy':
      return [['y', along(y, base('cy'), byY)]];
    case 'width':
      return [['width', (text) => number(text, (value) => Math.max(1, value * byX))]];
    case 'height':
      return [['height', (text) => number(text, (value) => Math.max(1, value * byY))]];
    case 'r':
      return [
        ['width', (text) => number(text, (value) => Math.max(1, 2 * value * byX))],
        ['height', (text) => number(text, (value) => Math.max(1, 2 * value * byY))],
        ['x', (text) => number(text, (value) => x + width / 2 - value * byX)],
        ['y', (text) => number(text, (value) => y + height / 2 - value * byY)],
      ];
    case 'opacity':
      return [['opacity', (text) => number(text, (value) => Math.min(1, Math.max(0, value)))]];
    case 'fill':
      return [['fill', hex]];
    case 'stroke':
      return [['lineColor', hex]];
    default:
      return null;
  }
}

/** Turned about its own middle; about anything else it has no keyframes. */
const aboutMiddle =
  ({ attributes, width, height, byX, byY }: Standing) =>
  (text: string): number | null => {
    const [degrees = NaN, cx = 0, cy = 0] = text
      .trim()
      .split(/[\s,]+/)
      .map(Number);
    const at = (edge: string, middle: string, size: number) =>
      attributes[middle] === undefined ? (parseFloat(attributes[edge] ?? '0') || 0) + size / 2 : parseFloat(attributes[middle]);
    const isMiddle = Math.abs(at('x', 'cx', width / byX) - cx) < 1 && Math.abs(at('y', 'cy', height / byY) - cy) < 1;
    return isMiddle && Number.isFinite(degrees) ? degrees : null;
  };

function number(text: string, change: (value: number) => number): number | null {
  const value = parseFloat(text);
  return Number.isFinite(value) ? Math.round(change(value) * 100) / 100 : null;
}

const hex = (text: string): string | null => {
  const [, digits] = /^#([0-9a-f]{6}|[0-9a-f]{3})$/i.exec(text.trim()) ?? [];
  if (digits === undefined) return null;
  return `#${(digits.length === 3 ? [...digits].map((digit) => digit + digit).join('') : digits).toLowerCase()}`;
};

/** Seconds of a clock value; null for events and what is none. */
function secondsOf(text: string | undefined): number | null {
  const [, value, unit = 's'] = /^([\d.]+)(s|ms|min)?$/.exec(text?.trim() ?? '') ?? [];
  const seconds = Number(value) * { s: 1, ms: 0.001, min: 60 }[unit as 's'];
  return Number.isFinite(seconds) ? seconds : null;
}

/** Rounds that a motion is written out for at most. */
const MOST_ROUNDS = 20;

function reading(written: Written, shape: Standing): Motion[] | null {
  const ways = waysOf(written, shape);
  const begin = secondsOf(written['begin'] ?? '0s');
  const lasts = secondsOf(written['dur']);
  if (!ways || begin === null) return null;
  if (written.element === 'set')
    return written['to'] === undefined ? null : readings(ways, [{ seconds: begin, text: written['to'], easing: 'linear' }], false);
  const texts =
    written['values']
      ?.split(';')
      .map((text) => text.trim())
      .filter(Boolean) ?? fromTo(written);
  if (lasts === null || lasts <= 0 || !texts || texts.length < 2) return null;
  const times = written['keyTimes']?.split(';').map(Number) ?? texts.map((_, i) => i / (texts.length - 1));
  if (times.length !== texts.length || times.some((time) => !(time >= 0 && time <= 1))) return null;
  const easings = easingsOf(written, texts.length);
  const goesRound = written['repeatCount'] === 'indefinite';
  const rounds = goesRound ? 1 : Math.min(MOST_ROUNDS, Math.max(1, Math.floor(Number(written['repeatCount'] ?? 1) || 1)));
  const keys = Array.from({ length: rounds }, (_, round) =>
    texts.map((text, i) => ({ seconds: begin + (round + times[i]!) * lasts, text, easing: i === texts.length - 1 ? 'linear' : easings[i]! }))
  ).flat();
  return readings(ways, keys, goesRound);
}

function readings(ways: readonly Way[], keys: readonly { seconds: number; text: string; easing: string }[], goesRound: boolean): Motion[] | null {
  const motions = ways.map(([property, valueOf]) => {
    const values = keys.map(({ text }) => valueOf(text));
    return values.includes(null)
      ? null
      : { property, goesRound, keys: keys.map(({ seconds, easing }, i) => ({ seconds, easing, value: values[i]! })) };
  });
  return motions.includes(null) ? null : (motions as Motion[]);
}

function fromTo(written: Written): string[] | null {
  return written['from'] !== undefined && written['to'] !== undefined ? [written['from'], written['to']] : null;
}

/** How each step goes; evenly unless something is said. */
function easingsOf(written: Written, count: number): string[] {
  const splines = written['calcMode'] === 'spline' ? written['keySplines']?.split(';').map((one) => one.trim()) : undefined;
  return Array.from({ length: count }, (_, i) => {
    if (written['calcMode'] === 'discrete') return 'steps(1)';
    const easing = splines?.[i] ? `cubic-bezier(${splines[i].split(/[\s,]+/).join(', ')})` : 'linear';
    return parseEasing(easing) ? easing : 'linear';
  });
}
