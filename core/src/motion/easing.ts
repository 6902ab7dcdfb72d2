/** Easing by CSS Easing Functions Level 2: keywords, cubic-bezier(), steps() and linear(); and spring() and overshoot() of our own. */

/** Maps progress 0…1 of the time to progress of the change; the ends are exact for all but steps and custom linear(). */
export type Easing = (t: number) => number;

/** The function of an easing text; null where the text is none. */
export function parseEasing(text: string): Easing | null {
  const source = text.trim().toLowerCase();
  const keyword = keywords[source];
  if (keyword) return keyword;
  const call = /^([a-z-]+)\((.*)\)$/s.exec(source);
  if (!call) return null;
  const [, name, inside] = call as unknown as [string, string, string];
  if (name === 'cubic-bezier') return readBezier(inside);
  if (name === 'steps') return readSteps(inside);
  if (name === 'linear') return readLinear(inside);
  if (name === 'spring') return readOwn(name, inside, 0.3, 1);
  if (name === 'overshoot') return readOwn(name, inside, 0.1, 2);
  return null;
}

/** Coefficients of the cubic through 0, p, q, 1. */
const polynomial = (p: number, q: number): readonly [number, number, number] => [1 - 3 * q + 3 * p, 3 * q - 6 * p, 3 * p];

const at = ([a, b, c]: readonly [number, number, number], s: number) => ((a * s + b) * s + c) * s;

/** The timing curve from (0,0) to (1,1) with two control points, solved for x to 1e-9. */
export function cubicBezier(x1: number, y1: number, x2: number, y2: number): Easing {
  if (x1 === y1 && x2 === y2) return linear;
  const x = polynomial(x1, x2);
  const y = polynomial(y1, y2);
  return (t) => (t <= 0 ? 0 : t >= 1 ? 1 : at(y, solve(x, t)));
}

const linear: Easing = (t) => t;

/** x(s) rises from 0 to 1, so halving always finds it: 40 halvings leave less than 1e-12. */
function solve(x: readonly [number, number, number], target: number): number {
  let low = 0;
  let high = 1;
  for (let i = 0; i < 40; i++) {
    const middle = (low + high) / 2;
    if (at(x, middle) < target) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

type Jump = 'jump-start' | 'jump-end' | 'jump-none' | 'jump-both';

function steps(count: number, jump: Jump): Easing {
  const jumps = count + (jump === 'jump-both' ? 1 : jump === 'jump-none' ? -1 : 0);
  const lead = jump === 'jump-start' || jump === 'jump-both' ? 1 : 0;
  return (t) => Math.min(jumps, Math.max(0, Math.floor(Math.min(1, t) * count) + lead)) / jumps;
}

function readBezier(inside: string): Easing | null {
  const numbers = inside.split(',').map(readNumber);
  if (numbers.length !== 4 || numbers.some((n) => n === null)) return null;
  const [x1, y1, x2, y2] = numbers as [number, number, number, number];
  return x1 < 0 || x1 > 1 || x2 < 0 || x2 > 1 ? null : cubicBezier(x1, y1, x2, y2);
}

const jumpWords: Record<string, Jump> = {
  start: 'jump-start',
  end: 'jump-end',
  'jump-start': 'jump-start',
  'jump-end': 'jump-end',
  'jump-none': 'jump-none',
  'jump-both': 'jump-both',
};

function readSteps(inside: string): Easing | null {
  const [number, word = 'end', ...more] = inside.split(',').map((part) => part.trim());
  const jump = jumpWords[word];
  const count = readNumber(number ?? '');
  if (more.length || jump === undefined || count === null || !Number.isInteger(count)) return null;
  return count < (jump === 'jump-none' ? 2 : 1) || count > 10_000 ? null : steps(count, jump);
}

interface Stop {
  at: number | null;
  readonly value: number;
}

/** linear(0, 0.2 30% 40%, 1): stops without a place are spread evenly, places never go back. */
function readLinear(inside: string): Easing | null {
  const stops: Stop[] = [];
  for (const part of inside.split(',')) {
    const words = part.trim().split(/\s+/);
    const values = words.filter((word) => !word.endsWith('%')).map(readNumber);
    const places = words.filter((word) => word.endsWith('%')).map((word) => readNumber(word.slice(0, -1)));
    const value = values[0];
    if (values.length !== 1 || value === null || value === undefined || places.length > 2 || places.includes(null)) return null;
    if (places.length === 0) stops.push({ at: null, value });
    for (const place of places) stops.push({ at: place! / 100, value });
  }
  return stops.length < 2 ? null : throughStops(placed(stops));
}

function placed(stops: Stop[]): { at: number; value: number }[] {
  stops[0]!.at ??= 0;
  stops.at(-1)!.at ??= 1;
  let highest = -Infinity;
  for (const stop of stops) if (stop.at !== null) highest = stop.at = Math.max(stop.at, highest);
  for (let i = 1; i < stops.length; i++) {
    if (stops[i]!.at !== null) continue;
    const end = stops.findIndex((stop, j) => j > i && stop.at !== null);
    const from = stops[i - 1]!.at!;
    const gap = (stops[end]!.at! - from) / (end - i + 1);
    for (let j = i; j < end; j++) stops[j]!.at = from + gap * (j - i + 1);
  }
  return stops as { at: number; value: number }[];
}

function throughStops(stops: { at: number; value: number }[]): Easing {
  return (t) => {
    const after = stops.findIndex((stop, i) => i > 0 && stop.at > t);
    const high = after < 0 ? stops.length - 1 : after;
    const [a, b] = [stops[high - 1]!, stops[high]!];
    if (a.at === b.at) return b.value;
    return a.value + ((t - a.at) / (b.at - a.at)) * (b.value - a.value);
  };
}

const readNumber = (text: string): number | null => (/^\s*[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?\s*$/i.test(text) ? Number(text) : null);

const keywords: Record<string, Easing> = {
  linear,
  ease: cubicBezier(0.25, 0.1, 0.25, 1),
  'ease-in': cubicBezier(0.42, 0, 1, 1),
  'ease-out': cubicBezier(0, 0, 0.58, 1),
  'ease-in-out': cubicBezier(0.42, 0, 0.58, 1),
  'step-start': steps(1, 'jump-start'),
  'step-end': steps(1, 'jump-end'),
};

/**
 * A spring from 0 to 1: `bounce` 0 comes to rest without passing its end, 1 hardly ever does. A damped oscillation
 * (second-order system) whose damping ratio is 1 - bounce and which is within 1/1000 of its end at t = 1.
 */
export function spring(bounce: number): Easing {
  const ratio = Math.max(0.05, 1 - bounce);
  if (ratio >= 1) {
    const rate = 9.2334;
    return (t) => (t <= 0 ? 0 : t >= 1 ? 1 : 1 - Math.exp(-rate * t) * (1 + rate * t));
  }
  const rate = Math.log(1000 / Math.sqrt(1 - ratio * ratio)) / ratio;
  const damped = rate * Math.sqrt(1 - ratio * ratio);
  return (t) =>
    t <= 0 ? 0 : t >= 1 ? 1 : 1 - Math.exp(-ratio * rate * t) * (Math.cos(damped * t) + ((ratio * rate) / damped) * Math.sin(damped * t));
}

/** Passes its end by about `amount` of the way and comes back: a cubic curve with its end points at 0 and 1. */
export function overshoot(amount: number): Easing {
  const over = overshootFactor(amount);
  return (t) => (t <= 0 ? 0 : t >= 1 ? 1 : 1 + (over + 1) * (t - 1) ** 3 + over * (t - 1) ** 2);
}

/** The curve's highest point is 4s³ / (27(s+1)²) above its end; this is the s for a wanted height. */
function overshootFactor(amount: number): number {
  let low = 0;
  let high = 100;
  for (let i = 0; i < 60; i++) {
    const middle = (low + high) / 2;
    if ((4 * middle ** 3) / (27 * (middle + 1) ** 2) < amount) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

function readOwn(name: string, inside: string, otherwise: number, most: number): Easing | null {
  const value = inside.trim() === '' ? otherwise : readNumber(inside);
  if (value === null || value < 0 || value > most) return null;
  return name === 'spring' ? spring(value) : overshoot(value);
}

const knownEasings = new Map<string, Easing>();

/** The function of an easing text, linear where the text is none; made once for each text. */
export function easingOf(text: string): Easing {
  let found = knownEasings.get(text);
  if (!found) knownEasings.set(text, (found = parseEasing(text) ?? linear));
  return found;
}
