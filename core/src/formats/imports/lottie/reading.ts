import { hexOfRgb } from '../../../motion/color.ts';
import type { MakeId } from '../../../edit/make-id.ts';
import { keysBetween } from '../../../edit/order.ts';
import { escapeText } from '../../../expression/text.ts';
import type { Asset, Layer } from '../../../piece/piece.ts';
import type { Style, Timeline, Tracked } from '../../../piece/schema.ts';
import { IDENTITY, rotated, scaled, translated, type Matrix } from '../../../program/matrix.ts';
import { isRecord } from '../../../record.ts';
import { cutText, mendedText, nameFrom } from '../../../text.ts';
import { turns } from '../../exports/lottie/baked.ts';
import { boxOf, isMoving, listIn, numberOf, numbersAt, outlineAt, pathData, recordIn, type Json } from './values.ts';

/**
 * The layers of an animation as groups that move, with what is seen of each in them. What moves is looked at at each timeline frame, and as
 * few keys are kept as say the same with straight ways between them; so easing, parents and compositions come out as they are seen.
 */

export interface Wanted {
  readonly json: Json;
  readonly scene: string;
  /** Timeline frames of the part. */
  readonly length: number;
  /** The frame of the animation at a timeline frame. */
  readonly frameAt: (time: number) => number;
  readonly assets: ReadonlyMap<string, Asset>;
  readonly makeId: MakeId;
  readonly left: string[];
}

const MOST_LAYERS = 2000;
const MOST_DEEP = 30;

type Frames = readonly number[];

export class AnimationReading {
  private readonly made: Layer[] = [];
  private readonly tracks: Record<string, NonNullable<Timeline['tracks']>[string]> = {};
  private readonly spans: Record<string, NonNullable<Timeline['spans']>[string]> = {};
  private readonly waiting = new Map<string | null, Layer[]>();

  constructor(private readonly wanted: Wanted) {}

  layers(): Layer[] {
    const { json, length, frameAt } = this.wanted;
    this.composition(
      listIn(json['layers']),
      null,
      Array.from({ length }, (_, time) => frameAt(time)),
      0
    );
    for (const list of this.waiting.values()) {
      const keys = keysBetween(null, null, list.length);
      this.made.push(...list.map((layer, i) => ({ ...layer, order: keys[i]! })));
    }
    return this.made;
  }

  time(): Pick<Timeline, 'tracks' | 'spans'> {
    return {
      ...(Object.keys(this.tracks).length && { tracks: this.tracks }),
      ...(Object.keys(this.spans).length && { spans: this.spans }),
    };
  }

  private count = 0;
  private get isFull(): boolean {
    return this.count >= MOST_LAYERS;
  }

  /** Its layers from the back to the front; the format has the one in front first. */
  private composition(written: readonly unknown[], parent: string | null, frames: Frames, deep: number): void {
    const layers = written.filter(isRecord);
    const byNumber = new Map(layers.map((layer) => [layer['ind'], layer] as const));
    for (const layer of [...layers].reverse()) {
      if (this.isFull) return void this.leave('Animation', `more than ${MOST_LAYERS} layers`);
      this.layer(layer, byNumber, parent, frames, deep);
    }
  }

  private assetOf({ refId }: Json): Json | undefined {
    return listIn(this.wanted.json['assets'])
      .filter(isRecord)
      .find(({ id }) => id === refId);
  }

  private leave(name: string, what: string): void {
    this.wanted.left.push(`${name}: ${what}`);
  }

  private layer(layer: Json, byNumber: ReadonlyMap<unknown, Json>, parent: string | null, frames: Frames, deep: number): void {
    const name = nameOf(layer, 'Layer');
    const type = numberOf(layer['ty'], -1);
    if (layer['hd'] === true || type === 3) return;
    if (layer['td'] === 1 || layer['tt'] !== undefined) this.leave(name, 'that it is cut by another layer');
    if (layer['td'] === 1) return;
    if (listIn(layer['masksProperties']).length) this.leave(name, 'its masks');
    if (listIn(layer['ef']).length) this.leave(name, 'its effects');
    if (numberOf(layer['bm'], 0) !== 0) this.leave(name, 'how it mixes with what is behind it');
    const there = timesIn(layer, frames);
    const opacity = percentAt(recordIn(layer['ks'])['o'], frames);
    const group = this.group(name, parent, this.matrices(layer, byNumber, frames, name), opacity, there.length === 0);
    if (there.length > 0 && there.length < frames.length) this.spans[this.wanted.makeId()] = { layer: group, from: there[0]!, to: there.at(-1)! };
    switch (type) {
      case 0:
        return this.precomposed(layer, group, frames, deep, name);
      case 1: {
        const [width, height] = [numberOf(layer['sw'], 1), numberOf(layer['sh'], 1)];
        const color = /^#[0-9a-f]{6}$/i.test(String(layer['sc'])) ? String(layer['sc']).toLowerCase() : '#000000';
        return void this.put(group, { name, type: 'box', pose: box(0, 0, width, height), style: { fill: color } });
      }
      case 2:
        return this.picture(layer, group, name);
      case 4:
        return this.shapes(listIn(layer['shapes']), group, frames, name, 0);
      case 5:
        return this.words(layer, group, name);
      default:
        this.leave(name, 'what it is: another kind of layer');
    }
  }

  private precomposed(layer: Json, group: string, frames: Frames, deep: number, name: string): void {
    const asset = this.assetOf(layer);
    if (!asset || deep >= MOST_DEEP) return this.leave(name, 'what is in it');
    if (layer['tm'] !== undefined) this.leave(name, 'that its time goes otherwise');
    const [start, stretch] = [numberOf(layer['st'], 0), numberOf(layer['sr'], 1) || 1];
    const inner = frames.map((frame) => (frame - start) / stretch);
    this.composition(listIn(asset['layers']), group, inner, deep + 1);
  }

  private picture(layer: Json, group: string, name: string): void {
    const asset = this.assetOf(layer);
    const found = [...this.wanted.assets].find(([file]) => file.replace(/\.[a-z]+$/, '') === String(layer['refId']))?.[1];
    if (!asset || !found) return this.leave(name, 'its picture, which is not in the file or in another form');
    const pose = box(0, 0, numberOf(asset['w'], found.width), numberOf(asset['h'], found.height));
    this.put(group, { name, type: 'picture', pose, style: {}, asset: found.id, fit: 'fill' });
  }

  private words(layer: Json, group: string, name: string): void {
    const keys = listIn(recordIn(recordIn(layer['t'])['d'])['k']).filter(isRecord);
    const said = recordIn(keys[0]?.['s']);
    const text = String(said['t'] ?? '').replace(/\r\n?/g, '\n');
    if (text.trim() === '') return;
    if (keys.length > 1) this.leave(name, 'that its words change');
    const size = Math.min(1000, Math.max(1, numberOf(said['s'], 16)));
    const leading = Math.min(5, Math.max(0.5, numberOf(said['lh'], size * 1.2) / size));
    const lines = text.split('\n');
    const width = Math.max(...lines.map((line) => line.length), 1) * size * 0.62;
    const align = (['left', 'right', 'center'] as const)[numberOf(said['j'], 0)] ?? 'left';
    // What is written begins at its first line; the box around it is as wide as letters are on average.
    const x = { left: 0, right: -width, center: -width / 2 }[align];
    const y = -((size * leading) / 2 + size * 0.35);
    const ink = hexOf(listIn(said['fc']).map((one) => numberOf(one, 0)));
    this.put(group, {
      name,
      type: 'text',
      pose: box(x, y, width, size * leading * lines.length),
      style: { ink },
      text: escapeText(cutText(mendedText(text), 4000)),
      letters: { size: tidy(size), leading: tidy(leading), align, place: 'top' },
    });
  }

  /** Shapes of a layer or a group of shapes; what is painted later lies behind. */
  private shapes(written: readonly unknown[], parent: string, frames: Frames, name: string, deep: number): void {
    const items = written.filter(isRecord).filter((item) => item['hd'] !== true);
    if (deep > MOST_DEEP || this.isFull) return this.leave(name, 'what is in it');
    const transform = items.find(({ ty }) => ty === 'tr');
    const paint = this.paintOf(items, frames, name);
    const trim = items.find(({ ty }) => ty === 'tm');
    for (const item of items) if (OTHER.has(String(item['ty']))) this.leave(name, `a part of it that is made by others (${String(item['ty'])})`);
    const geometry = items.filter(({ ty }) => ty === 'rc' || ty === 'el' || ty === 'sh' || ty === 'sr');
    const groups = items.filter(({ ty }) => ty === 'gr');
    const isPlain = !transform || isStill(transform);
    const holder = isPlain
      ? parent
      : this.group(
          `${name} shapes`,
          parent,
          frames.map((frame) => matrixAt(transform, frame)),
          percentAt(transform['o'], frames)
        );
    for (const group of [...groups].reverse()) this.shapes(listIn(group['it']), holder, frames, nameOf(group, name), deep + 1);
    const outlines = geometry.filter(({ ty }) => ty === 'sh');
    if (paint.isSeen) {
      if (outlines.length) this.outlined(outlines, holder, frames, name, paint, trim);
      for (const item of [...geometry].reverse()) {
        if (item['ty'] === 'rc' || item['ty'] === 'el') this.boxed(item, holder, frames, nameOf(item, name), paint);
        else if (item['ty'] === 'sr') this.leave(name, 'a star');
      }
    }
  }

  private paintOf(items: readonly Json[], frames: Frames, name: string): Paint {
    const of = (kinds: readonly string[]) => items.find(({ ty }) => kinds.includes(String(ty)));
    const [fill, line] = [of(['fl', 'gf']), of(['st', 'gs'])];
    if (fill?.['ty'] === 'gf' || line?.['ty'] === 'gs') this.leave(name, 'its shades; it has one colour');
    const colors = (item: Json | undefined) => (item ? frames.map((frame) => colorAt(item, frame)) : null);
    const widths = line ? frames.map((frame) => Math.min(200, Math.max(0, numbersAt(line['w'], frame, [1])[0]!))) : null;
    return { fill: colors(fill), line: colors(line), widths, isSeen: fill !== undefined || line !== undefined };
  }

  private boxed(item: Json, parent: string, frames: Frames, name: string, paint: Paint): void {
    const sizes = frames.map((frame) => numbersAt(item['s'], frame, [1, 1]) as [number, number]);
    const middles = frames.map((frame) => numbersAt(item['p'], frame, [0, 0]) as [number, number]);
    // A line lies on the edge there, and within it here.
    const grow = paint.widths ?? frames.map(() => 0);
    const boxes = frames.map((_, t) => ({
      x: middles[t]![0] - (sizes[t]![0] + grow[t]!) / 2,
      y: middles[t]![1] - (sizes[t]![1] + grow[t]!) / 2,
      width: Math.max(1, sizes[t]![0] + grow[t]!),
      height: Math.max(1, sizes[t]![1] + grow[t]!),
    }));
    const corners =
      item['ty'] === 'rc' ? frames.map((frame, t) => Math.max(0, numbersAt(item['r'], frame, [0])[0]! + (item['r'] ? grow[t]! / 2 : 0))) : null;
    const first = boxes[0]!;
    const id = this.put(parent, {
      name,
      type: item['ty'] === 'el' ? 'oval' : 'box',
      pose: box(first.x, first.y, first.width, first.height),
      style: { ...styleOf(paint), ...(corners?.some((corner) => corner > 0) && { corner: tidy(corners[0]!) }) },
    });
    for (const side of ['x', 'y', 'width', 'height'] as const)
      this.track(
        id,
        side,
        boxes.map((one) => one[side])
      );
    if (corners) this.track(id, 'corner', corners);
    this.painted(id, paint);
  }

  private outlined(items: readonly Json[], parent: string, frames: Frames, name: string, paint: Paint, trim: Json | undefined): void {
    const moves = items.some(({ ks }) => isMoving(ks));
    const moments = (moves ? frames : frames.slice(0, 1)).map((frame) => items.map(({ ks }) => outlineAt(ks, frame)));
    if (moments[0]!.every(({ v }) => listIn(v).length === 0)) return;
    const { left, top, width, height } = boxOf(moments.flat());
    const paths = moments.map((outlines) => outlines.flatMap((one) => pathData(one, [left, top], 100 / width, 100 / height) ?? []).join(''));
    if (!/^M/.test(paths[0]!) || paths.some((path) => path.length > 20_000)) return this.leave(name, 'an outline with too many points');
    const id = this.put(parent, { name, type: 'path', pose: box(left, top, width, height), style: styleOf(paint), path: paths[0]! });
    if (moves)
      this.keyed(
        id,
        'path',
        paths
          .map((value, time) => ({ time, value }))
          .filter(({ value }, t, all) => t === 0 || t === all.length - 1 || value !== all[t - 1]!.value || value !== all[t + 1]!.value)
      );
    this.painted(id, paint);
    if (!trim) return;
    if (frames.some((frame) => numbersAt(trim['s'], frame, [0])[0] !== 0))
      return this.leave(name, 'that it is drawn from elsewhere than its beginning');
    this.track(
      id,
      'drawn',
      frames.map((frame) => Math.min(1, Math.max(0, numbersAt(trim['e'], frame, [100])[0]! / 100))),
      0.001
    );
  }

  private painted(id: string, { fill, line, widths }: Paint): void {
    for (const [property, colors] of [
      ['fill', fill],
      ['lineColor', line],
    ] as const)
      if (colors?.some((color) => color.join() !== colors[0]!.join()))
        this.keyed(
          id,
          property,
          turns(colors, 0.004).map((time) => ({ time, value: hexOf(colors[time]!) }))
        );
    if (widths) this.track(id, 'lineWidth', widths);
  }

  /** A group whose corner moves as a matrix says. */
  private group(name: string, parent: string | null, matrices: readonly Matrix[], opacity: readonly number[], isNever = false): string {
    let last = 0;
    const poses = matrices.map(({ a, b, c, d, e, f }, t) => {
      const turn = (Math.atan2(b, a) * 180) / Math.PI;
      // A turn goes on from where it was.
      const rotation = t === 0 ? turn : turn + 360 * Math.round((last - turn) / 360);
      last = rotation;
      return { x: e, y: f, rotation, scale: (Math.hypot(a, b) + Math.hypot(c, d)) / 2 };
    });
    if (
      matrices.some(({ a, b, c, d }) => Math.abs(Math.hypot(a, b) - Math.hypot(c, d)) > 0.02 * Math.max(1e-6, Math.hypot(a, b)) || a * d - b * c < 0)
    )
      this.leave(name, 'that it is stretched or turned over: it grows alike in width and height');
    const first = poses[0]!;
    const pose = {
      ...box(first.x, first.y, 1, 1),
      anchor: { x: 0, y: 0 },
      ...(first.rotation !== 0 && { rotation: within(first.rotation, 36_000) }),
      ...(first.scale !== 1 && { scale: Math.min(100, tidy(first.scale)) }),
    };
    const style = opacity[0]! < 1 ? { opacity: tidy(opacity[0]!) } : {};
    const id = this.put(parent, { name, type: 'group', pose, style, ...(isNever && { hidden: true }) });
    for (const property of ['x', 'y', 'rotation'] as const)
      this.track(
        id,
        property,
        poses.map((one) => one[property])
      );
    this.track(
      id,
      'scale',
      poses.map(({ scale }) => scale),
      0.001
    );
    this.track(id, 'opacity', opacity, 0.002);
    return id;
  }

  private put(parent: string | null, layer: Pick<Layer, 'name' | 'type' | 'pose' | 'style'> & Partial<Layer>): string {
    const id = this.wanted.makeId();
    const list = this.waiting.get(parent) ?? [];
    list.push({ ...layer, id, scene: this.wanted.scene, parent, order: 'a0' });
    this.waiting.set(parent, list);
    this.count++;
    return id;
  }

  private track(layer: string, property: Tracked, values: readonly number[], near = 0.02): void {
    if (values.every((value) => Math.abs(value - values[0]!) <= near)) return;
    const lists = values.map((value) => [value]);
    this.keyed(
      layer,
      property,
      turns(lists, near).map((time) => ({ time, value: within(values[time]!, 100_000) }))
    );
  }

  private keyed(layer: string, property: Tracked, keys: readonly { time: number; value: number | string }[]): void {
    const { makeId } = this.wanted;
    const some = keys.slice(0, 5000);
    if (some.length < 2) return;
    this.tracks[makeId()] = {
      layer,
      property,
      keys: Object.fromEntries(some.map(({ time, value }) => [makeId(), { time, value, easing: 'linear' }])),
    };
  }

  /** Where a layer stands with all that it is held to. */
  private matrices(layer: Json, byNumber: ReadonlyMap<unknown, Json>, frames: Frames, name: string): Matrix[] {
    const chain: Json[] = [];
    for (let one: Json | undefined = layer; one; one = one['parent'] === undefined ? undefined : byNumber.get(one['parent'])) {
      if (chain.includes(one) || chain.length > 100) {
        this.leave(name, 'that it is held to itself');
        break;
      }
      chain.push(one);
    }
    return frames.map((frame) => chain.reduce((matrix, one) => multiplied(matrixAt(recordIn(one['ks']), frame), matrix), IDENTITY));
  }
}

/** One map after another: first the second. */
const multiplied = (m: Matrix, n: Matrix): Matrix => ({
  a: m.a * n.a + m.c * n.b,
  b: m.b * n.a + m.d * n.b,
  c: m.a * n.c + m.c * n.d,
  d: m.b * n.c + m.d * n.d,
  e: m.a * n.e + m.c * n.f + m.e,
  f: m.b * n.e + m.d * n.f + m.f,
});

interface Paint {
  readonly fill: readonly (readonly number[])[] | null;
  readonly line: readonly (readonly number[])[] | null;
  readonly widths: readonly number[] | null;
  readonly isSeen: boolean;
}

/** The timeline frames at which a layer is there. */
const timesIn = ({ ip, op }: Json, frames: Frames): number[] => {
  const [from, to] = [numberOf(ip, -Infinity), numberOf(op, Infinity)];
  return frames.flatMap((frame, time) => (frame >= from - 1e-6 && frame < to - 1e-6 ? [time] : []));
};

/** Shapes that change others. */
const OTHER = new Set(['rp', 'mm', 'rd', 'pb', 'zz', 'op', 'tw']);

const tidy = (value: number): number => Math.round(value * 1000) / 1000;
const within = (value: number, most: number): number => Math.min(most, Math.max(-most, Number.isFinite(value) ? tidy(value) : 0));

const nameOf = ({ nm }: Json, usual: string): string => nameFrom(typeof nm === 'string' ? nm.replace(/\s+/g, ' ') : '', usual);

const box = (x: number, y: number, width: number, height: number): Layer['pose'] => ({
  x: within(x, 100_000),
  y: within(y, 100_000),
  width: Math.max(1, within(width, 100_000)),
  height: Math.max(1, within(height, 100_000)),
});

function matrixAt(transform: Json, frame: number): Matrix {
  const [x, y] = numbersAt(transform['p'], frame, [0, 0]) as [number, number];
  const [ax, ay] = numbersAt(transform['a'], frame, [0, 0]) as [number, number];
  const [sx, sy] = numbersAt(transform['s'], frame, [100, 100]) as [number, number];
  const [turn] = numbersAt(transform['r'] ?? transform['rz'], frame, [0]) as [number];
  return translated(scaled(rotated(translated(IDENTITY, x, y), turn), sx / 100, sy / 100), -ax, -ay);
}

const isStill = (transform: Json): boolean => {
  const { a, b, c, d, e, f } = matrixAt(transform, 0);
  const isMoved = ['p', 'a', 's', 'r', 'o'].some((name) => isMoving(transform[name]));
  return !isMoved && a === 1 && b === 0 && c === 0 && d === 1 && e === 0 && f === 0 && numbersAt(transform['o'], 0, [100])[0] === 100;
};

const percentAt = (property: unknown, frames: Frames): number[] =>
  frames.map((frame) => Math.min(1, Math.max(0, numbersAt(property, frame, [100])[0]! / 100)));

/** Red, green, blue and how opaque, each from 0 to 1. */
function colorAt(item: Json, frame: number): number[] {
  const alpha = numbersAt(item['o'], frame, [100])[0]! / 100;
  if (item['ty'] === 'gf' || item['ty'] === 'gs') {
    const [, red = 0, green = 0, blue = 0] = numbersAt(recordIn(item['g'])['k'], frame, [0, 0, 0, 0]);
    return [red, green, blue, alpha];
  }
  const [red = 0, green = 0, blue = 0, own = 1] = numbersAt(item['c'], frame, [0, 0, 0, 1]);
  return [red, green, blue, alpha * own];
}

const hexOf = ([red = 0, green = 0, blue = 0, alpha = 1]: readonly number[]): string => hexOfRgb([red, green, blue], alpha);

function styleOf({ fill, line, widths }: Paint): Style {
  return {
    ...(fill && { fill: hexOf(fill[0]!) }),
    ...(line && { line: { color: hexOf(line[0]!), width: tidy(widths?.[0] ?? 1) } }),
  };
}
