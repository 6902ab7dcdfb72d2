import { createHash } from 'node:crypto';
import {
  apply,
  compile,
  emptyPiece,
  keepWalk,
  keysBetween,
  parseLines,
  scopeOf,
  stepsOf,
  unwrap,
  type Asset,
  type KeptEvent,
  type Layer,
  type Letters,
  type Look,
  type Operation,
  type Piece,
  type Scene,
  type Style,
  type Thread,
} from '@zany/core';

/** Puts a demo piece together: frames and layers in the order they are written, threads as thread lines once all frames are there. */
export class Maker {
  readonly assets = new Map<string, Uint8Array>();
  private readonly operations: Operation[] = [];
  private readonly lines: { on: Thread['on']; owner: string; text: string }[] = [];
  private readonly walks: { readonly name: string; readonly presses: readonly (readonly [string, string])[] }[] = [];
  private readonly counts = new Map<string, number>();
  private frame: Scene | null = null;

  constructor(
    private readonly id: string,
    private readonly name: string,
    private readonly width: number,
    private readonly height: number
  ) {}

  /** Begins a frame; what follows goes into it. */
  page(name: string, options: Partial<Pick<Scene, 'background' | 'ending' | 'draft'>> = {}, threads = ''): this {
    const scene: Scene = {
      id: this.next('frame'),
      use: 'frame',
      name,
      order: this.key('frames'),
      width: this.width,
      height: this.height,
      background: '#fbf7ee',
      ...options,
    };
    this.frame = scene;
    this.operations.push({ op: 'put', table: 'scenes', value: scene });
    this.wire('scene', scene.id, threads);
    return this;
  }

  layer(type: Layer['type'], name: string, box: readonly [number, number, number, number], more: LayerOptions = {}): string {
    const { threads = '', ...rest } = more;
    const [x, y, width, height] = box;
    const id = this.next('layer');
    const layer: Layer = {
      id,
      scene: this.frame!.id,
      parent: null,
      order: this.key(this.frame!.id),
      name,
      type,
      pose: { x, y, width, height },
      style: {},
      ...rest,
    };
    this.operations.push({ op: 'put', table: 'layers', value: layer });
    this.wire('layer', id, threads);
    return id;
  }

  /** A picture file, known by its content from then on. */
  picture(file: string, mediaType: Asset['mediaType'], bytes: Uint8Array, width: number, height: number): string {
    const id = createHash('sha256').update(bytes).digest('hex');
    if (!this.assets.has(id))
      this.operations.push({ op: 'put', table: 'assets', value: { id, name: file, mediaType, size: bytes.length, width, height } as Asset });
    this.assets.set(id, bytes);
    return id;
  }

  everywhere(threads: string): void {
    this.wire('piece', this.id, threads);
  }

  /** A walk that is kept with the piece: what is pressed from its first frame on, each as frame and layer. */
  walk(name: string, ...presses: readonly (readonly [frame: string, layer: string])[]): void {
    this.walks.push({ name, presses });
  }

  finish(): Piece {
    const head = { id: this.id, name: this.name, width: this.width, height: this.height, start: [] };
    const start: Operation = { op: 'set', table: 'piece', id: this.id, path: ['start'], value: ['frame1'] };
    const { piece } = unwrap(apply(emptyPiece(head), [...this.operations, start]));
    const scope = scopeOf(piece);
    const threads = this.lines.flatMap(({ on, owner, text }) => {
      const parsed = parseLines(text, scope);
      if (!parsed.ok) throw new Error(`${text}: ${parsed.error.message}`);
      const keys = keysBetween(null, null, parsed.value.length);
      return parsed.value.map((line, i): Operation => ({
        op: 'put',
        table: 'threads',
        value: { id: this.next('thread'), on, owner, order: keys[i]!, ...line, enabled: true } as Thread,
      }));
    });
    return this.withWalks(unwrap(apply(piece, threads)).piece);
  }

  private withWalks(piece: Piece): Piece {
    const program = compile(piece);
    const layerOn = (frame: string, name: string): string => {
      const found = [...piece.layers.values()].find((layer) => layer.name === name && piece.scenes.get(layer.scene)!.name === frame);
      if (!found) throw new Error(`No layer on ${frame} is called ${name}.`);
      return found.id;
    };
    return this.walks.reduce((kept, { name, presses }) => {
      const events = presses.map(([frame, layer]): KeptEvent => ({ type: 'click', layer: layerOn(frame, layer) }));
      const steps = stepsOf(program, 'frame1', events)!;
      return unwrap(
        apply(
          kept,
          keepWalk(kept, name, 'frame1', steps, () => this.next('walk'))
        )
      ).piece;
    }, piece);
  }

  private wire(on: Thread['on'], owner: string, text: string): void {
    if (text) this.lines.push({ on, owner, text });
  }

  private next(kind: string): string {
    const n = (this.counts.get(kind) ?? 0) + 1;
    this.counts.set(kind, n);
    return `${kind}${n}`;
  }

  private readonly keys = new Map<string, string>();

  private key(list: string): string {
    const key = keysBetween(this.keys.get(list) ?? null, null, 1)[0]!;
    this.keys.set(list, key);
    return key;
  }
}

export interface LayerOptions {
  readonly style?: Style;
  readonly text?: string;
  readonly letters?: Letters;
  readonly looks?: { readonly hover?: Look; readonly press?: Look };
  readonly asset?: string;
  readonly fit?: 'fill' | 'contain' | 'cover';
  readonly copyOf?: string;
  readonly locked?: boolean;
  /** Thread lines, one a line. */
  readonly threads?: string;
}
