import { hexOfRgb, rgbOf } from '../../../motion/color.ts';
import { countedText, typedPart } from '../../../motion/shares.ts';
import { DEFAULT_INK, valuesOf, type Values } from '../../../motion/values.ts';
import { outlinesOf } from '../../../motion/path.ts';
import { placeOfLetters, USUAL_LETTERS } from '../../../piece/letters.ts';
import type { Scene } from '../../../piece/piece.ts';
import type { Letters } from '../../../piece/schema.ts';
import type { Node } from '../../../program/node.ts';
import type { Program } from '../../../program/program.ts';
import { framesPerSecond } from '../../../run/playhead.ts';
import type { Shown, Surface } from '../../../run/resolve.ts';
import { stillScreen } from '../../../run/still.ts';
import { layerKind } from '../../../vocabulary/layers/all.ts';
import { baked, bakedNumber, type Baked } from './baked.ts';
import { areAlike, beziersOf, type Bezier } from './outlines.ts';

/**
 * The timeline of a scene as an animation in the Lottie format (community specification 1.0): what the player shows at each timeline frame,
 * with keyframes between which everything is linear. A layer is an empty one that moves, and what is seen of it, held to that.
 */

type Json = Readonly<Record<string, unknown>>;

export interface LottieOptions {
  /** A picture file as an address that holds it; null where it is not there. */
  readonly picture: (asset: string) => { readonly url: string; readonly width: number; readonly height: number } | null;
}

export function animationOf(program: Program, scene: Scene, options: LottieOptions): Json {
  return new Animation(program, scene, options).write();
}

/** A layer over all timeline frames: what is settled of it at each, null where it is not there. */
interface Strip {
  readonly node: Node;
  readonly moments: readonly (Shown | null)[];
  readonly children: readonly Strip[];
}

class Animation {
  private readonly assets: Json[] = [];
  private readonly pictures = new Map<string, string | null>();
  private readonly fonts = new Map<string, Json>();
  private readonly length: number;

  constructor(
    private readonly program: Program,
    private readonly scene: Scene,
    private readonly options: LottieOptions
  ) {
    this.length = scene.timeline?.length ?? 1;
  }

  write(): Json {
    const { scene, length, program } = this;
    const screens = Array.from({ length }, (_, frame) => stillScreen(program, scene.id, { frame }));
    const composition = new Composition(this, length);
    for (const surface of screens[0]?.surfaces ?? []) {
      const over = screens.map((screen) => screen?.surfaces.find((one) => one.scene === surface.scene) ?? null);
      if (surface.background) composition.ground(surface, surface.background);
      for (const strip of stripsOf(over.map((one) => one?.tops ?? []))) composition.add(strip, null, Array(length).fill(1) as number[]);
    }
    const layers = composition.layers();
    const markers = Object.values(scene.timeline?.labels ?? {}).sort((a, b) => a.time - b.time);
    return {
      v: '5.9.0',
      nm: scene.name,
      fr: framesPerSecond(program),
      ip: 0,
      op: length,
      w: Math.round(scene.width),
      h: Math.round(scene.height),
      ddd: 0,
      assets: this.assets,
      ...(this.fonts.size && { fonts: { list: [...this.fonts.values()] } }),
      layers,
      ...(markers.length && {
        markers: markers.map(({ time, name }, i) => ({ tm: time, cm: name, dr: Math.max(0, (markers[i + 1]?.time ?? length) - time) })),
      }),
    };
  }

  /** The picture of an asset among the animation's; null where it is not there. */
  pictureFor(asset: string): { readonly id: string; readonly width: number; readonly height: number } | null {
    const file = this.options.picture(asset);
    if (!file) return null;
    if (!this.pictures.has(asset)) {
      const id = `picture_${this.pictures.size}`;
      this.pictures.set(asset, id);
      this.assets.push({ id, w: file.width, h: file.height, u: '', p: file.url, e: 1 });
    }
    return { id: this.pictures.get(asset)!, width: file.width, height: file.height };
  }

  /** A composition of its own, as what is cut to its box. */
  inner(fill: (composition: Composition) => void): string {
    const composition = new Composition(this, this.length);
    fill(composition);
    const id = `inside_${this.assets.length}`;
    this.assets.push({ id, layers: composition.layers() });
    return id;
  }

  fontFor({ family = USUAL_LETTERS.family, weight = USUAL_LETTERS.weight }: Letters): string {
    const name = `${family} ${weight}`;
    if (!this.fonts.has(name))
      this.fonts.set(name, { fName: name, fFamily: family, fStyle: STYLES[Math.round(weight / 100)] ?? 'Regular', ascent: ASCENT });
    return name;
  }
}

/** How far letters go up from their line, in percent of their size. */
const ASCENT = 75;

const STYLES: Readonly<Record<number, string>> = {
  1: 'Thin',
  2: 'ExtraLight',
  3: 'Light',
  4: 'Regular',
  5: 'Medium',
  6: 'SemiBold',
  7: 'Bold',
  8: 'ExtraBold',
  9: 'Black',
};

/** Layers over all moments, from the back to the front. */
function stripsOf(moments: readonly (readonly Shown[])[]): Strip[] {
  const nodes = new Map<string, Node>();
  for (const list of moments) for (const { node } of list) if (!nodes.has(node.key)) nodes.set(node.key, node);
  return [...nodes.values()]
    .sort((a, b) => a.at - b.at)
    .map((node) => {
      const own = moments.map((list) => list.find((shown) => shown.node.key === node.key) ?? null);
      return { node, moments: own, children: stripsOf(own.map((shown) => shown?.children ?? [])) };
    });
}

/** Layers of one composition. The format has the one in front first. */
class Composition {
  private readonly made: Json[] = [];
  private count = 0;

  constructor(
    private readonly animation: Animation,
    private readonly length: number
  ) {}

  layers(): Json[] {
    return [...this.made].reverse();
  }

  ground({ x, y, width, height }: Surface, color: string): void {
    const { rgb, alpha } = rgbOf(color);
    if (alpha > 0)
      this.put({ ty: 1, nm: 'Ground', sc: hexOfRgb(rgb), sw: Math.round(width), sh: Math.round(height) }, null, still({ p: [x, y], o: alpha * 100 }));
  }

  /** A layer with all in it; `around` is how opaque what it is in is at each moment. */
  add(strip: Strip, parent: number | null, around: readonly number[]): void {
    const { node, moments, children } = strip;
    const first = moments.find((shown) => shown !== null);
    if (!first) return;
    let last = first;
    const shown = moments.map((one) => (last = one ?? last));
    const values = shown.map(valuesOf);
    const opacity = moments.map((one, t) => (one ? around[t]! * values[t]!.opacity : 0));
    if (opacity.every((one) => one === 0)) return;
    const { anchor } = first;
    const anchors = values.map(({ width, height }) => [anchor.x * width, anchor.y * height] as const);
    const mover = this.put({ ty: 3, nm: node.layer.name }, parent, {
      a: baked(anchors),
      p: baked(values.map(({ x, y }, t) => [x + anchors[t]![0], y + anchors[t]![1]])),
      r: bakedNumber(values.map(({ rotation }) => rotation)),
      s: baked(values.map(({ scale }) => [scale * 100, scale * 100])),
      o: { a: 0, k: 100 },
    });
    this.content(node, mover, shown, values, opacity);
    if (children.length) this.inside(strip, mover, values, opacity);
  }

  private inside({ node, children }: Strip, mover: number, values: readonly Values[], opacity: readonly number[]): void {
    const part = node.inside?.scene.scene;
    const transform = {
      p: baked(values.map(({ scrollX, scrollY }) => (part ? [0, 0] : [-scrollX, -scrollY]))),
      s: baked(values.map(({ width, height }) => (part ? [(width / part.width) * 100, (height / part.height) * 100] : [100, 100]))),
    };
    if (!node.layer.clip && !node.layer.scroll) {
      const inner = part ? this.put({ ty: 3, nm: `${node.layer.name}, inside` }, mover, { ...still({}), ...transform }) : mover;
      for (const child of children) this.add(child, inner, opacity);
      return;
    }
    const side = (which: 'width' | 'height') => Math.max(1, Math.round(Math.max(...values.map((one) => one[which]))));
    const refId = this.animation.inner((composition) => {
      const inner = composition.put({ ty: 3, nm: 'Inside' }, null, { ...still({}), ...transform });
      for (const child of children) composition.add(child, inner, Array(this.length).fill(1) as number[]);
    });
    this.put({ ty: 0, nm: `${node.layer.name}, inside`, refId, w: side('width'), h: side('height') }, mover, { ...still({}), o: percent(opacity) });
  }

  private content(node: Node, mover: number, shown: readonly Shown[], values: readonly Values[], opacity: readonly number[]): void {
    const { draws } = layerKind(node.layer);
    const o = percent(opacity);
    const nm = node.layer.name;
    if (draws === 'outline') {
      const shapes = outlineShapes(node, values);
      if (shapes) this.put({ ty: 4, nm, shapes }, mover, { ...still({}), o });
      return;
    }
    const shapes = draws === 'nothing' || draws === 'sound' ? [] : boxShapes(node, values);
    if (shapes.length) this.put({ ty: 4, nm, shapes }, mover, { ...still({}), o });
    if (draws === 'picture') this.picture(node, mover, shown, values, o);
    else if (shown.some(({ text }) => text)) this.words(node, mover, shown, values, o);
  }

  private picture(node: Node, mover: number, shown: readonly Shown[], values: readonly Values[], o: Baked): void {
    const asset = shown.find((one) => one.asset !== undefined)?.asset;
    const file = asset === undefined ? null : this.animation.pictureFor(asset);
    if (!file) return;
    const { fit = 'fill', crop = { x: 0.5, y: 0.5 } } = node.layer;
    const scales = values.map(({ width, height }) => {
      const [x, y] = [width / file.width, height / file.height];
      const one = fit === 'contain' ? Math.min(x, y) : Math.max(x, y);
      return fit === 'fill' ? ([x, y] as const) : ([one, one] as const);
    });
    const p = values.map(({ width, height }, t) => [(width - file.width * scales[t]![0]) * crop.x, (height - file.height * scales[t]![1]) * crop.y]);
    this.put({ ty: 2, nm: node.layer.name, refId: file.id }, mover, {
      ...still({}),
      p: baked(p),
      s: baked(scales.map(([x, y]) => [x * 100, y * 100])),
      o,
    });
  }

  private words(node: Node, mover: number, shown: readonly Shown[], values: readonly Values[], o: Baked): void {
    const inShape = !layerKind(node.layer).isProse;
    const documents = shown.map((one, t) => this.document(one, values[t]!, inShape));
    const keys: { s: Json; t: number }[] = [];
    let said = '';
    documents.forEach((s, t) => {
      const now = JSON.stringify(s);
      if (now !== said) keys.push({ s, t });
      said = now;
    });
    this.put({ ty: 5, nm: node.layer.name, t: { d: { k: keys }, p: {}, m: { g: 1, a: { a: 0, k: [0, 0] } }, a: [] } }, mover, {
      ...still({}),
      p: baked(shown.map((one, t) => placeOf(one, values[t]!, inShape))),
      o,
    });
  }

  private document(shown: Shown, values: Values, inShape: boolean): Json {
    const { rgb } = rgbOf(values.ink ?? DEFAULT_INK);
    const { align, leading } = placeOfLetters(shown.letters, inShape);
    const whole = countedText(shown.text ?? '', values.counted);
    return {
      s: tenth(values.size),
      f: this.animation.fontFor(shown.letters),
      t: typedPart(whole, values.typed).split('\n').join('\r'),
      j: { left: 0, right: 1, center: 2 }[align],
      tr: 0,
      lh: tenth(values.size * leading),
      ls: 0,
      fc: rgb.map(tenThousandth),
    };
  }

  /** Puts a layer in front of those that are there; gives its number. */
  private put(layer: Json, parent: number | null, ks: Json): number {
    const ind = ++this.count;
    this.made.push({ ddd: 0, ind, ...layer, sr: 1, ...(parent !== null && { parent }), ks, ao: 0, ip: 0, op: this.length, st: 0, bm: 0 });
    return ind;
  }
}

const tenth = (value: number): number => Math.round(value * 10) / 10;
const tenThousandth = (value: number): number => Math.round(value * 10_000) / 10_000;

/** A transform that does nothing, but for what is said. */
const still = ({ p = [0, 0], o = 100 }: { readonly p?: readonly [number, number]; readonly o?: number }): Json => ({
  a: { a: 0, k: [0, 0] },
  p: { a: 0, k: p },
  r: { a: 0, k: 0 },
  s: { a: 0, k: [100, 100] },
  o: { a: 0, k: o },
});

const percent = (shares: readonly number[]): Baked =>
  bakedNumber(
    shares.map((share) => Math.min(100, Math.max(0, share * 100))),
    0.1
  );

/** Where the first line of a text stands. */
function placeOf(shown: Shown, { width, height, size, counted }: Values, inShape: boolean): [number, number] {
  const { align, place, leading } = placeOfLetters(shown.letters, inShape);
  const lines = countedText(shown.text ?? '', counted).split('\n').length;
  const free = height - size * leading * lines;
  const top = free * { top: 0, middle: 0.5, bottom: 1 }[place];
  // Letters stand in the middle of their line: what they go up and down from it is about as much again above as below.
  return [width * { left: 0, center: 0.5, right: 1 }[align], top + (size * leading) / 2 + size * 0.35];
}

/** A colour over all moments; where there is none it is clear. */
function paint(moments: readonly (string | undefined)[]): { readonly c: Baked; readonly o: Baked } | null {
  if (moments.every((color) => color === undefined)) return null;
  let last = moments.find((color) => color !== undefined)!;
  const all = moments.map((color) => rgbOf((last = color ?? last)));
  return {
    c: baked(
      all.map(({ rgb }) => [...rgb, 1]),
      0.002
    ),
    o: bakedNumber(
      all.map(({ alpha }, t) => (moments[t] === undefined ? 0 : alpha * 100)),
      0.1
    ),
  };
}

const fillOf = (paintOf: NonNullable<ReturnType<typeof paint>>): Json => ({ ty: 'fl', ...paintOf, r: 1 });
const strokeOf = (paintOf: NonNullable<ReturnType<typeof paint>>, width: Baked, cap: 1 | 2): Json => ({
  ty: 'st',
  ...paintOf,
  w: width,
  lc: cap,
  lj: 1,
  ml: 4,
});

const group = (nm: string, ...it: readonly Json[]): Json => ({
  ty: 'gr',
  nm,
  it: [...it, { ty: 'tr', a: { a: 0, k: [0, 0] }, p: { a: 0, k: [0, 0] }, r: { a: 0, k: 0 }, s: { a: 0, k: [100, 100] }, o: { a: 0, k: 100 } }],
});

/** A box or an oval: its line, which stands inside it, in front of its fill. */
function boxShapes({ layer }: Node, values: readonly Values[]): Json[] {
  const isRound = layerKind(layer).isRound === true;
  const outline = (inset: (one: Values) => number): Json => ({
    ty: isRound ? 'el' : 'rc',
    d: 1,
    s: baked(values.map((one) => [Math.max(0, one.width - 2 * inset(one)), Math.max(0, one.height - 2 * inset(one))])),
    p: baked(values.map(({ width, height }) => [width / 2, height / 2])),
    ...(!isRound && { r: bakedNumber(values.map((one) => Math.max(0, Math.min(one.corner, one.width / 2, one.height / 2) - inset(one)))) }),
  });
  const fill = paint(values.map((one) => one.fill));
  const line = paint(values.map((one) => (one.lineWidth > 0 ? one.lineColor : undefined)));
  const width = bakedNumber(values.map((one) => one.lineWidth));
  return [
    ...(line
      ? [
          group(
            'Line',
            outline((one) => one.lineWidth / 2),
            strokeOf(line, width, 1)
          ),
        ]
      : []),
    ...(fill
      ? [
          group(
            'Fill',
            outline(() => 0),
            fillOf(fill)
          ),
        ]
      : []),
  ];
}

/** An outline, as far as its points go over into each other; null for one that is not seen. */
function outlineShapes({ layer }: Node, values: readonly Values[]): Json[] | null {
  const { outline: own = '', stroke: wide } = layerKind(layer);
  const outlines = values.map(({ path, width, height }) => beziersOf(outlinesOf(path ?? own)[0]?.outline ?? own, width, height));
  const alike = areAlike(outlines) ? outlines : outlines.map(() => outlines[0]!);
  const paths = (alike[0] ?? []).map((_, part): Json => ({ ty: 'sh', ks: bakedOutline(alike.map((one) => one[part]!)) }));
  const fill = wide === undefined ? paint(values.map((one) => one.fill)) : null;
  const line = paint(values.map((one) => one.lineColor ?? (wide === undefined ? undefined : (one.fill ?? DEFAULT_INK))));
  const width = bakedNumber(values.map((one) => one.lineWidth || (wide ?? 0)));
  const isDrawn = values.some(({ drawn }) => drawn < 1);
  const trim: Json = {
    ty: 'tm',
    s: { a: 0, k: 0 },
    e: bakedNumber(
      values.map(({ drawn }) => drawn * 100),
      0.1
    ),
    o: { a: 0, k: 0 },
    m: 1,
  };
  const shapes = [
    ...(line ? [group('Line', ...paths, ...(isDrawn ? [trim] : []), strokeOf(line, width, 2))] : []),
    ...(fill ? [group('Fill', ...paths, fillOf(fill))] : []),
  ];
  return shapes.length ? shapes : null;
}

/** A part of an outline over all moments. */
function bakedOutline(moments: readonly Bezier[]): Json {
  const said = moments.map((one) => JSON.stringify(one));
  if (said.every((one) => one === said[0])) return { a: 0, k: moments[0] };
  const keys = moments.map((s, t) => ({ t, s: [s], ...(t < moments.length - 1 && { i: { x: 1, y: 1 }, o: { x: 0, y: 0 } }) }));
  // Where it stays as it is, one keyframe at each end says so.
  return { a: 1, k: keys.filter((_, t) => t === 0 || t === keys.length - 1 || said[t] !== said[t - 1] || said[t] !== said[t + 1]) };
}
