import { easingOf, parseEasing } from '../../motion/easing.ts';
import { labOf } from '../../motion/color.ts';
import { keysOf, type KeyOf } from '../../motion/track.ts';
import { faceOf } from '../../piece/faces.ts';
import { placeOfLetters, USUAL_LETTERS } from '../../piece/letters.ts';
import { colorOf, setLetters } from '../../piece/paint.ts';
import { byOrder, framesOf, layerIdsOf, scenesOf, type Layer, type Piece, type Scene } from '../../piece/piece.ts';
import type { Delta, Letters, Look, LookName, Timeline, Tracked } from '../../piece/schema.ts';
import { framesPerSecond, isThereAt, spansOf } from '../../run/playhead.ts';
import { isOutlined, layerKind } from '../../vocabulary/layers/all.ts';
import { DEFAULT_INK } from '../../vocabulary/properties/ink.ts';
import { listWords, takeName } from '../../words.ts';
import { defineExport } from './define.ts';
import { fileName } from './names.ts';

/**
 * Looks as transitions and timelines as `@keyframes`, to be pasted into real code (CSS Animations 1, CSS Easing 2, CSS Color 4). A layer is
 * an element of its own, in a scene that its children stand in. Colours are written in OKLab, so that a browser mixes them as the player does.
 */
export const css = defineExport({
  kind: 'css',
  group: 'build',
  label: 'Looks and timelines as CSS',
  act: 'Save the CSS',
  ending: '.css',
  mediaType: 'text/css; charset=utf-8',
  meaning: 'what layers look like, their looks as transitions, and timelines as @keyframes, to paste into real code',
  write: (piece) => sheetOf(piece),
  omits: (piece) => omittedBy(partsOf(piece)),
});

/** What the CSS of scenes does not say; the files of typefaces are no part of it. */
const omittedBy = (parts: readonly SceneSheet[]): string[] => {
  const families = [...new Set(parts.flatMap((part) => [...part.families]))];
  return [...parts.flatMap(({ omits }) => omits), ...(families.length ? [`the files of its typefaces: ${listWords(families)}`] : [])];
};

export function sheetOf(piece: Piece): string {
  const parts = partsOf(piece);
  const left = omittedBy(parts);
  const note = left.length ? `\n   It does not say:\n${left.map((one) => `   - ${plain(one)}`).join('\n')}` : '';
  return (
    [`/* ${plain(piece.head.name)}: scenes and layers are classes of the same names.${note} */`, ...parts.flatMap(({ rules }) => rules)].join(
      '\n\n'
    ) + '\n'
  );
}

/** What would end a comment does not. */
const plain = (text: string): string => text.replaceAll('*/', '* /').replace(/\s+/g, ' ');

function partsOf(piece: Piece): SceneSheet[] {
  const taken = new Set<string>();
  return [...framesOf(piece), ...scenesOf(piece, 'sheet'), ...scenesOf(piece, 'part')].map((scene) => new SceneSheet(piece, scene, taken));
}

/** A name as a class that is free; it is then taken. */
const classOf = (taken: Set<string>, name: string): string =>
  takeName(
    taken,
    fileName(name)
      .replace(/^(?=\d)/, 'n')
      .replaceAll('-', ' ')
  ).replaceAll(' ', '-');

/** When an element looks so. */
const SELECTORS: Readonly<Record<LookName, string>> = {
  hover: ':hover',
  press: ':active',
  focus: ':focus-visible',
  selected: ':is([aria-selected="true"], [aria-checked="true"], [aria-pressed="true"])',
  selectedHover: ':is([aria-selected="true"], [aria-checked="true"], [aria-pressed="true"]):hover',
  disabled: ':is(:disabled, [aria-disabled="true"])',
};

/** What cannot be used has the look for that, and no other. */
const USABLE = ':not(:disabled, [aria-disabled="true"])';

const selectorOf = (look: LookName): string => (look === 'disabled' ? SELECTORS.disabled : SELECTORS[look] + USABLE);

/** In the order in which the later ones win, as in the player. */
const PRECEDENCE: readonly LookName[] = ['selected', 'hover', 'selectedHover', 'press', 'focus', 'disabled'];

class SceneSheet {
  readonly omits: string[] = [];
  readonly rules: string[] = [];
  /** The typefaces that it names. */
  readonly families = new Set<string>();
  private readonly scene: string;

  constructor(
    readonly piece: Piece,
    scene: Scene,
    taken: Set<string>
  ) {
    this.scene = classOf(taken, scene.name);
    const layers = Array.from(layerIdsOf(piece, scene.id), (id) => piece.layers.get(id)!).sort(byOrder);
    const own = new Set<string>();
    const classes = new Map(layers.map((layer) => [layer.id, classOf(own, layer.name)] as const));
    const animations = scene.timeline ? this.timeline(scene, scene.timeline, classes) : new Map<string, string[]>();
    for (const layer of withParents(piece, layers, ({ id, looks }) => looks !== undefined || animations.has(id)))
      this.layer(scene, layer, classes.get(layer.id)!, animations.get(layer.id) ?? []);
    if (this.rules.length)
      this.rules.unshift(block(`.${this.scene}`, ['position: relative', `width: ${px(scene.width)}`, `height: ${px(scene.height)}`]));
  }

  private layer(scene: Scene, layer: Layer, name: string, animations: readonly string[]): void {
    const selector = `.${this.scene} .${name}`;
    const { pose, style, letters } = layer;
    const hasWords = layer.text !== undefined || layer.type === 'field';
    const all: Delta = {
      pose,
      style: { ...(hasWords && { ink: DEFAULT_INK }), ...style },
      ...(hasWords && { letters: { ...asSet(layer), ...setLetters(this.piece.head, letters ?? {}) } }),
    };
    const looks = PRECEDENCE.flatMap((look) => (layer.looks?.[look] ? [{ look, delta: layer.looks[look] }] : []));
    const base = ['position: absolute', 'box-sizing: border-box', ...this.declarations(layer, all)];
    if (layer.type === 'oval') base.push('border-radius: 50%');
    if (looks.length) base.push(transitionOf(looks[0]!.delta));
    if (animations.length) base.push(`animation: ${animations.join(', ')}`);
    this.rules.push(block(selector, base));
    for (const { look, delta } of looks) {
      const { inside, text, asset, path, hidden, state, ...rest } = delta;
      for (const [what, value] of Object.entries({
        'what is inside': inside,
        'the text': text,
        'the picture': asset,
        'the outline': path,
        'the state': state,
      }))
        if (value !== undefined) this.omits.push(`${what} in the look ${look} of ${layer.name} on ${scene.name}`);
      const said = [...this.declarations(layer, rest), ...(hidden === undefined ? [] : [`visibility: ${hidden ? 'hidden' : 'visible'}`])];
      this.rules.push(block(`${selector}${selectorOf(look)}`, [...said, transitionOf(delta)]));
    }
  }

  /** What is said of a layer, as declarations. */
  private declarations(layer: Layer, { pose = {}, style = {}, letters = {} }: Delta): string[] {
    const { line, shadow } = style;
    const { anchor } = pose;
    const values: Partial<Record<Tracked, number | string | undefined>> = {
      ...pose,
      fill: style.fill,
      opacity: style.opacity,
      corner: style.corner,
      ink: style.ink,
      size: letters.size,
    } as never;
    const said = Object.entries(values).flatMap(([name, value]) => {
      const property = propertyFor(layer, name as Tracked);
      return value === undefined || property === null ? [] : [`${property}: ${this.value(name as Tracked, value)}`];
    });
    if (anchor) said.push(`transform-origin: ${percent(anchor.x)} ${percent(anchor.y)}`);
    if (line && isOutlined(layer)) said.push(`stroke: ${this.color(line.color)}`, `stroke-width: ${px(line.width)}`);
    else if (line) said.push(`border: ${px(line.width)} solid ${this.color(line.color)}`);
    if (shadow) said.push(`box-shadow: ${px(shadow.x)} ${px(shadow.y)} ${px(shadow.blur)} ${this.color(shadow.color)}`);
    return [...said, ...this.set(setLetters(this.piece.head, letters))];
  }

  /** How words are set; their size is a property like others. */
  private set({ family, weight, leading, align, place }: Letters): string[] {
    const face = family === undefined ? undefined : faceOf(family);
    if (face) this.families.add(family!);
    return [
      ...(family === undefined ? [] : [`font-family: ${face ? `"${family}", ${face.like}` : family}`]),
      ...(weight === undefined ? [] : [`font-weight: ${weight}`]),
      ...(leading === undefined ? [] : [`line-height: ${short(leading)}`]),
      ...(align === undefined ? [] : [`text-align: ${align}`]),
      ...(place === undefined ? [] : [`align-content: ${PLACES[place]}`]),
    ];
  }

  /** The animations of each layer of a timeline; their keyframes are written. */
  private timeline(scene: Scene, timeline: Timeline, classes: ReadonlyMap<string, string>): Map<string, string[]> {
    const found = new Map<string, string[]>();
    const { length, labels = {}, tracks = {}, cues = {} } = timeline;
    const how = `${seconds(length / framesPerSecond(this))} both${timeline.loop ? ' infinite' : ''}${timeline.autoplay === false ? ' paused' : ''}`;
    const add = (layer: string, what: string, frames: readonly string[]) => {
      const name = `${this.scene}-${classes.get(layer)!}-${what}`;
      this.rules.push(`@keyframes ${name} {\n${frames.map((one) => `  ${one}`).join('\n')}\n}`);
      found.set(layer, [...(found.get(layer) ?? []), `${name} ${how} linear`]);
    };
    for (const track of Object.values(tracks)) {
      const layer = this.piece.layers.get(track.layer);
      const property = layer && classes.has(layer.id) ? propertyFor(layer, track.property) : null;
      const keys = keysOf(track).filter(({ time }) => time <= length);
      const isCut = keys.length < keysOf(track).length;
      const words = `${track.property} of ${layer?.name ?? 'a layer inside a part'} on ${scene.name}`;
      if (property === null || keys.length === 0 || isCut)
        this.omits.push(`keys for the ${words}${isCut && property ? ', some of which are beyond the end' : ''}`);
      else add(track.layer, property, this.keyframes(property, track.property, keys, length));
    }
    for (const layer of spansOf(timeline).keys()) {
      const at = this.piece.layers.get(layer);
      if (!at || !classes.has(layer)) this.omits.push(`when ${at?.name ?? 'a layer'} on ${scene.name} comes and goes`);
      else add(layer, 'there', there(timeline, layer));
    }
    if (Object.keys(labels).length) this.omits.push(`the sections of ${scene.name}: its time goes through from the beginning to the end`);
    if (Object.keys(cues).length) this.omits.push(`what the time of ${scene.name} starts and stops`);
    return found;
  }

  private keyframes(property: string, name: Tracked, keys: readonly KeyOf[], length: number): string[] {
    const at = (time: number) => percent(time / length);
    const frames = keys.map(({ time, value, easing }, i) => {
      const way =
        i < keys.length - 1 && easing !== undefined && easing !== 'linear'
          ? ` animation-timing-function: ${easingWords(easing, typeof value === 'string')};`
          : '';
      return `${at(time)} { ${property}: ${this.value(name, value)};${way} }`;
    });
    const [first, last] = [keys[0]!, keys.at(-1)!];
    if (first.time > 0) frames.unshift(`0% { ${property}: ${this.value(name, first.value)}; }`);
    if (last.time < length) frames.push(`100% { ${property}: ${this.value(name, last.value)}; }`);
    return frames;
  }

  private value(name: Tracked, value: number | string): string {
    if (typeof value === 'string') return this.color(value);
    return name === 'rotation' ? `${short(value)}deg` : name === 'scale' || name === 'opacity' ? short(value) : px(value);
  }

  private color(paint: string): string {
    const { L, a, b, alpha } = labOf(colorOf(this.piece.head, paint));
    return `oklab(${[L, a, b].map(short).join(' ')}${alpha < 1 ? ` / ${short(alpha)}` : ''})`;
  }
}

/** Where words stand in their box: CSS has the same for a block with nothing else in it. */
const PLACES = { top: 'start', middle: 'center', bottom: 'end' } as const;

/** As the player sets words of which nothing else is said: in the middle of a shape, at the beginning of a text. */
const asSet = (layer: Layer): Letters => ({ ...USUAL_LETTERS, ...placeOfLetters({}, !layerKind(layer).isProse) });

/** As the player has it where a look says nothing else. */
const transitionOf = ({ ms = 120, easing = 'ease' }: Look): string => `transition: all ${ms}ms ${easingWords(easing)}`;

const PROPERTIES: Partial<Record<Tracked, string>> = {
  x: 'left',
  y: 'top',
  width: 'width',
  height: 'height',
  rotation: 'rotate',
  scale: 'scale',
  opacity: 'opacity',
  fill: 'background-color',
  lineColor: 'border-color',
  lineWidth: 'border-width',
  corner: 'border-radius',
  ink: 'color',
  size: 'font-size',
};

/** Of an SVG path, which has these from the element that it stands in. */
const OUTLINES: Partial<Record<Tracked, string>> = { fill: 'fill', lineColor: 'stroke', lineWidth: 'stroke-width' };

/** The property of CSS that says the same; null where none does. */
const propertyFor = (layer: Layer, name: Tracked): string | null => (isOutlined(layer) ? OUTLINES[name] : undefined) ?? PROPERTIES[name] ?? null;

/** The layers that something is said of, with the groups that they stand in: what is in a group stands in its element. */
function withParents(piece: Piece, layers: readonly Layer[], isSaid: (layer: Layer) => boolean): Layer[] {
  const said = new Set<string>();
  for (const layer of layers.filter(isSaid))
    for (let at: Layer | undefined = layer; at; at = at.parent ? piece.layers.get(at.parent) : undefined) said.add(at.id);
  return layers.filter(({ id }) => said.has(id));
}

/** Seen in its spans, up to and with their last frame. */
function there(timeline: Timeline, layer: string): string[] {
  const { length } = timeline;
  const times = [
    0,
    ...spansOf(timeline)
      .get(layer)!
      .flatMap(({ from, to }) => [from, to + 1]),
    length,
  ].filter((time) => time <= length);
  return [...new Set(times)]
    .sort((a, b) => a - b)
    .map((time) => {
      const isThere = isThereAt(timeline, layer, Math.min(time, length - 1));
      return `${percent(time / length)} { visibility: ${isThere ? 'visible' : 'hidden'}; animation-timing-function: step-end; }`;
    });
}

/** An easing of our own is sampled at so many places. */
const SAMPLES = 80;

/** An easing as CSS has it. A colour goes no further than the one that it comes to, which a browser would. */
function easingWords(easing: string, isColor = false): string {
  const of = easingOf(easing);
  const shares = Array.from({ length: SAMPLES + 1 }, (_, i) => of(i / SAMPLES));
  const isOver = isColor && shares.some((share) => share < 0 || share > 1);
  if (!isOver && !/^\s*(spring|overshoot)\b/i.test(easing)) return parseEasing(easing) ? easing.trim() : 'linear';
  return `linear(${shares.map((share) => short(isOver ? Math.min(1, Math.max(0, share)) : share)).join(', ')})`;
}

const block = (selector: string, declarations: readonly string[]): string => `${selector} {\n${declarations.map((one) => `  ${one};`).join('\n')}\n}`;

/** Without what binary fractions add. */
const short = (value: number): string => String(Number(value.toFixed(5)));
const px = (value: number): string => `${short(value)}px`;
const percent = (share: number): string => `${short(share * 100)}%`;
const seconds = (value: number): string => `${short(value)}s`;
