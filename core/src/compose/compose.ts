import { apply } from '../edit/apply.ts';
import { keysById } from '../motion/track.ts';
import { keysBetween } from '../edit/order.ts';
import type { Operation } from '../edit/operation.ts';
import { storeExpression } from '../expression/store.ts';
import { expressionScope } from '../expression/scope.ts';
import { textParts } from '../expression/text.ts';
import { parseLine } from '../lines/line.ts';
import { scopeOf } from '../lines/scope.ts';
import { emptyPiece, type Asset, type Layer, type Piece, type Scene, type Variable } from '../piece/piece.ts';
import type { Bindable } from '../piece/bindable.ts';
import type { Delta, Ending, Look, LookName, Timeline, Tracked } from '../piece/schema.ts';
import { unwrap } from '../result.ts';

/**
 * Puts a piece together from names, as people speak of it: layers, states and labels by name, threads as lines, expressions as
 * they are read. Ids are made of the names, so that tests and demo pieces can be read.
 */
export interface ComposeSpec {
  readonly id?: string;
  readonly name?: string;
  readonly size?: readonly [number, number];
  readonly fps?: number;
  readonly variables?: Readonly<Record<string, VariableSpec>>;
  readonly parts?: Readonly<Record<string, SceneSpec>>;
  readonly sheets?: Readonly<Record<string, SceneSpec>>;
  readonly frames: Readonly<Record<string, SceneSpec>>;
  readonly assets?: readonly Asset[];
  /** Threads of the whole piece. */
  readonly lines?: readonly string[];
}

export type VariableSpec = Pick<Variable, 'type' | 'initial'> & Partial<Pick<Variable, 'min' | 'max' | 'step' | 'options'>>;

export interface SceneSpec extends Partial<Pick<Scene, 'contentHeight' | 'onReturn' | 'draft' | 'ending' | 'background'>> {
  readonly name?: string;
  readonly size?: readonly [number, number];
  /** By name, in order; what each changes of which layers. */
  readonly states?: Readonly<Record<string, Readonly<Record<string, Delta & { readonly in?: string }>>>>;
  readonly over?: readonly string[];
  readonly under?: readonly string[];
  readonly timeline?: TimelineSpec;
  /** Choice groups, with the variable that mirrors each. */
  readonly choices?: Readonly<Record<string, string | null>>;
  readonly variables?: Readonly<Record<string, VariableSpec>>;
  readonly stateIs?: string;
  readonly layers?: Readonly<Record<string, PlacedSpec>>;
  readonly lines?: readonly string[];
}

export interface TimelineSpec {
  readonly length: number;
  readonly loop?: boolean;
  readonly autoplay?: boolean;
  /** Time and ending: in a word, the label to go to, or so many rounds. */
  readonly labels?: Readonly<Record<string, readonly [number, 'hold' | 'loop' | 'go on' | { readonly goTo: string } | { readonly rounds: number }]>>;
  readonly tracks?: readonly (readonly [layer: string, property: Tracked, keys: readonly (readonly [number, number | string, string?])[]])[];
  readonly spans?: readonly (readonly [layer: string, from: number, to: number])[];
  readonly cues?: readonly (readonly [time: number, layer: string, what: 'play' | 'pause' | 'start over'])[];
}

export interface PlacedSpec extends Omit<
  Partial<Layer>,
  'id' | 'scene' | 'parent' | 'order' | 'pose' | 'bindings' | 'part' | 'state' | 'choice' | 'looks'
> {
  readonly at?: readonly [number, number, number, number];
  readonly pose?: Partial<Layer['pose']>;
  /** The group it is in. */
  readonly in?: string;
  readonly part?: string;
  readonly state?: string;
  readonly choice?: string;
  readonly looks?: Partial<Record<LookName, Omit<Look, 'inside'> & { readonly inside?: Readonly<Record<string, Delta>> }>>;
  /** Bindings as they are read. */
  readonly when?: Partial<Record<Bindable, string>>;
  readonly lines?: readonly string[];
}

const slug = (name: string) => name.replace(/[^0-9A-Za-z]+/g, '-').replace(/^-+|-+$/g, '') || 'x';

/** The id of a scene by its name in the spec. */
export const sceneId = (name: string): string => slug(name);

/** The id of a layer by the names of its scene and its own. */
export const layerId = (scene: string, name: string): string => `${slug(scene)}_${slug(name)}`.slice(0, 40);

export const stateId = (scene: string, name: string): string => `${slug(scene)}_s_${slug(name)}`.slice(0, 40);

export function compose(spec: ComposeSpec): Piece {
  return new Composer(spec).run();
}

class Composer {
  private piece: Piece;

  constructor(private readonly spec: ComposeSpec) {
    const [width, height] = spec.size ?? [390, 844];
    this.piece = emptyPiece({
      id: spec.id ?? 'piece',
      name: spec.name ?? 'Test piece',
      width,
      height,
      start: [],
      ...(spec.fps && { fps: spec.fps }),
    });
  }

  run(): Piece {
    const { spec } = this;
    const scenes = [
      ...Object.entries(spec.parts ?? {}).map(([key, scene]) => ({ key, scene, use: 'part' as const })),
      ...Object.entries(spec.sheets ?? {}).map(([key, scene]) => ({ key, scene, use: 'sheet' as const })),
      ...Object.entries(spec.frames).map(([key, scene]) => ({ key, scene, use: 'frame' as const })),
    ];
    const keys = keysBetween(null, null, scenes.length);
    const operations: Operation[] = (spec.assets ?? []).map((value) => ({ op: 'put', table: 'assets', value }));
    scenes.forEach(({ key, scene, use }, i) => operations.push({ op: 'put', table: 'scenes', value: this.sceneOf(key, scene, use, keys[i]!) }));
    operations.push(...this.variables(null, spec.variables ?? {}));
    for (const { key, scene } of scenes) operations.push(...this.variables(key, scene.variables ?? {}), ...this.layers(key, scene.layers ?? {}));
    const first = Object.keys(spec.frames)[0];
    if (first) operations.push({ op: 'set', table: 'piece', id: this.piece.head.id, path: ['start'], value: [slug(first)] });
    this.apply(operations);
    this.apply(scenes.flatMap(({ key, scene }) => this.expressions(key, scene)));
    const threads = scenes.flatMap(({ key, scene }) => [
      ...Object.entries(scene.layers ?? {}).flatMap(([name, layer]) => this.threads('layer', layerId(key, name), slug(key), layer.lines ?? [])),
      ...this.threads('scene', slug(key), slug(key), scene.lines ?? []),
    ]);
    this.apply([...threads, ...this.threads('piece', this.piece.head.id, null, spec.lines ?? [])]);
    return this.piece;
  }

  private apply(operations: readonly Operation[]): void {
    if (operations.length) this.piece = unwrap(apply(this.piece, operations)).piece;
  }

  private sceneOf(key: string, spec: SceneSpec, use: Scene['use'], order: string): Scene {
    const {
      name = key,
      size = this.spec.size ?? [390, 844],
      states,
      over = [],
      under = [],
      timeline,
      choices,
      variables: _v,
      stateIs: _s,
      layers: _l,
      lines: _t,
      background = '#ffffff',
      ...rest
    } = spec;
    const carries = [
      ...under.map((sheet) => ({ sheet: slug(sheet), place: 'under' as const })),
      ...over.map((sheet) => ({ sheet: slug(sheet), place: 'over' as const })),
    ];
    return {
      id: slug(key),
      use,
      name,
      order,
      width: size[0],
      height: size[1],
      background,
      ...rest,
      ...(states && { states: this.states(key, states) }),
      ...(carries.length && { carries }),
      ...(timeline && { timeline: timelineOf(key, timeline) }),
      ...(choices && {
        choices: Object.fromEntries(
          Object.entries(choices).map(([choice, variable]) => [
            slug(choice),
            { name: choice, ...(variable !== null && { variable: slug(variable) }) },
          ])
        ),
      }),
    };
  }

  private states(key: string, states: NonNullable<SceneSpec['states']>): NonNullable<Scene['states']> {
    const orders = keysBetween(null, null, Object.keys(states).length);
    return Object.fromEntries(
      Object.entries(states).map(([name, deltas], i) => [
        stateId(key, name),
        {
          name,
          order: orders[i]!,
          deltas: Object.fromEntries(
            Object.entries(deltas).map(([path, { in: state, ...delta }]) => [
              this.path(key, path),
              { ...delta, ...(state && { state: this.stateOf(key, path, state) }) },
            ])
          ),
        },
      ])
    );
  }

  /** `Placement/Layer` as the path of ids that it means. */
  private path(scene: string, path: string): string {
    let at = scene;
    return path
      .split('/')
      .map((name) => {
        const id = layerId(at, name);
        at = this.sceneSpec(at)?.layers?.[name]?.part ?? at;
        return id;
      })
      .join('/');
  }

  private stateOf(scene: string, path: string, state: string): string {
    const part = this.sceneSpec(scene)?.layers?.[path]?.part ?? scene;
    return stateId(part, state);
  }

  private sceneSpec(key: string): SceneSpec | undefined {
    return this.spec.frames[key] ?? this.spec.parts?.[key] ?? this.spec.sheets?.[key];
  }

  private variables(scene: string | null, specs: Readonly<Record<string, VariableSpec>>): Operation[] {
    const orders = keysBetween(null, null, Object.keys(specs).length);
    return Object.entries(specs).map(([name, variable], i) => ({
      op: 'put',
      table: 'variables',
      value: {
        id: scene === null ? slug(name) : `${slug(scene)}_v_${slug(name)}`,
        scene: scene === null ? null : slug(scene),
        order: orders[i]!,
        name,
        ...variable,
      } as Variable,
    }));
  }

  private layers(key: string, layers: Readonly<Record<string, PlacedSpec>>): Operation[] {
    const orders = keysBetween(null, null, Object.keys(layers).length);
    return Object.entries(layers).map(([name, spec], i) => {
      const { at = [0, 0, 100, 50], pose, in: group, part, state, choice, looks, when: _w, lines: _l, text, ...rest } = spec;
      const value: Layer = {
        type: part ? 'placement' : 'box',
        style: {},
        name,
        ...rest,
        id: layerId(key, name),
        scene: slug(key),
        parent: group ? layerId(key, group) : null,
        order: orders[i]!,
        pose: { x: at[0], y: at[1], width: at[2], height: at[3], ...pose },
        ...(text !== undefined && { text }),
        ...(part && { part: slug(part) }),
        ...(state && part && { state: stateId(part, state) }),
        ...(choice && { choice: slug(choice) }),
        ...(looks && { looks: this.looks(key, looks) }),
      };
      return { op: 'put' as const, table: 'layers' as const, value };
    });
  }

  private looks(key: string, looks: NonNullable<PlacedSpec['looks']>): Layer['looks'] {
    return Object.fromEntries(
      Object.entries(looks).map(([name, look]) => [
        name,
        {
          ...look,
          ...(look!.inside && { inside: Object.fromEntries(Object.entries(look!.inside).map(([path, delta]) => [this.path(key, path), delta])) }),
        },
      ])
    );
  }

  /** Bindings and texts, once everything they can name is there. */
  private expressions(key: string, spec: SceneSpec): Operation[] {
    const operations: Operation[] = [];
    const scope = expressionScope(this.piece, slug(key));
    const store = (text: string) => {
      const stored = storeExpression(text, scope);
      if (!stored.ok) throw new Error(`${key}: “${text}”: ${stored.error.sentence}`);
      return stored.value;
    };
    if (spec.stateIs) operations.push({ op: 'set', table: 'scenes', id: slug(key), path: ['stateIs'], value: store(spec.stateIs) });
    for (const [name, layer] of Object.entries(spec.layers ?? {})) {
      const id = layerId(key, name);
      for (const [what, text] of Object.entries(layer.when ?? {}))
        operations.push({ op: 'set', table: 'layers', id, path: ['bindings', what], value: store(text) });
      if (layer.text?.includes('{')) operations.push({ op: 'set', table: 'layers', id, path: ['text'], value: storedText(layer.text, store) });
    }
    return operations;
  }

  private threads(on: 'layer' | 'scene' | 'piece', owner: string, scene: string | null, lines: readonly string[]): Operation[] {
    const orders = keysBetween(null, null, lines.length);
    const scope = scopeOf(this.piece, scene, on === 'layer' ? owner : null);
    return lines.map((line, i) => {
      const parsed = parseLine(line, scope);
      if (!parsed.ok) throw new Error(`${owner}: ${line}\n${parsed.error.message}`);
      return {
        op: 'put',
        table: 'threads',
        value: { id: `${owner}-${i}`.slice(-40), on, owner, order: orders[i]!, ...parsed.value, enabled: true } as { id: string },
      };
    });
  }
}

/** A text whose expressions are in their stored form. */
export const storedText = (text: string, store: (expression: string) => string): string =>
  textParts(text)
    .map((part) => (part.expression === undefined ? part.text!.replace(/[\\{]/g, '\\$&') : `{${store(part.expression)}}`))
    .join('');

function timelineOf(key: string, { labels, tracks, spans, cues, ...rest }: TimelineSpec): Timeline {
  const label = (name: string) => `${slug(key)}_m_${slug(name)}`.slice(0, 40);
  const ending = (end: NonNullable<TimelineSpec['labels']>[string][1]): Ending =>
    typeof end === 'string' ? { do: end } : 'rounds' in end ? { do: 'loop', times: end.rounds } : { do: 'go to', label: label(end.goTo) };
  const numbered = <T>(list: readonly T[]) => Object.fromEntries(list.map((one, i) => [`n${i}`, one]));
  return {
    ...rest,
    ...(labels && {
      labels: Object.fromEntries(Object.entries(labels).map(([name, [time, end]]) => [label(name), { time, name, ending: ending(end) }])),
    }),
    ...(tracks && {
      tracks: numbered(
        tracks.map(([layer, property, keys]) => ({
          layer: layerId(key, layer),
          property,
          keys: keysById(keys.map(([time, value, easing]) => ({ time, value, ...(easing && { easing }) }))),
        }))
      ),
    }),
    ...(spans && { spans: numbered(spans.map(([layer, from, to]) => ({ layer: layerId(key, layer), from, to }))) }),
    ...(cues && { cues: numbered(cues.map(([time, layer, what]) => ({ time, layer: layerId(key, layer), do: what }))) }),
  };
}
