import { FORMAT, type PieceJson } from '../piece/schema.ts';

/**
 * Documents made to be expensive: small to write, large or endless to work with. Each says whether reading refuses it, or
 * whether it is a piece like any other that everything has to get through.
 */
export interface Hostile {
  readonly name: string;
  readonly make: () => PieceJson;
  /** The code of the refusal; null for what is read. */
  readonly refused: string | null;
}

type Draft = { -readonly [K in keyof PieceJson]: PieceJson[K] } & Record<'scenes' | 'layers' | 'threads' | 'variables', Record<string, never>>;

const orderOf = (id: string) => `a${id.replace(/[^0-9a-zA-Z]/g, '')}`;

class Maker {
  readonly json = {
    format: FORMAT,
    id: 'p',
    name: 'P',
    width: 390,
    height: 844,
    start: ['f0'],
    scenes: {},
    layers: {},
    threads: {},
    variables: {},
    assets: {},
  } as unknown as Draft;

  private put(table: 'scenes' | 'layers' | 'threads' | 'variables', id: string, value: object): this {
    (this.json[table] as Record<string, object>)[id] = { id, order: orderOf(id), ...value };
    return this;
  }

  scene(id: string, use = 'frame', rest: object = {}): this {
    return this.put('scenes', id, { use, name: id, width: 390, height: 844, background: '#ffffff', ...rest });
  }

  layer(id: string, scene: string, rest: object = {}): this {
    const pose = { x: 0, y: 0, width: 60, height: 60 };
    return this.put('layers', id, { scene, parent: null, name: id, type: 'box', pose, style: {}, ...rest });
  }

  thread(id: string, on: string, owner: string, cue: object, steps: readonly object[], condition?: string): this {
    return this.put('threads', id, { on, owner, cue, branches: [{ ...(condition && { if: condition }), steps }], enabled: true });
  }

  variable(id: string, type: string, initial: unknown, scene: string | null = null): this {
    return this.put('variables', id, { scene, name: id, type, initial });
  }

  text(text: string): this {
    return this.scene('f0').layer('t', 'f0', { type: 'text', text });
  }
}

const times = (n: number, work: (i: number) => void) => Array.from({ length: n }, (_, i) => work(i));
const placing = (part: string) => ({ type: 'placement', part });

const made = (name: string, refused: string | null, fill: (maker: Maker) => unknown): Hostile => ({
  name,
  refused,
  make: () => {
    const maker = new Maker();
    fill(maker);
    return maker.json as PieceJson;
  },
});

export const hostilePieces: readonly Hostile[] = [
  made('groups nested 8,000 deep', 'too-deep', (m) => {
    m.scene('f0');
    times(8000, (i) => m.layer(`g${i}`, 'f0', { type: 'group', parent: i ? `g${i - 1}` : null }));
  }),
  made('300 parts in a chain', 'too-deep', (m) => {
    m.scene('f0').layer('l', 'f0', placing('q0'));
    times(300, (i) => m.scene(`q${i}`, 'part').layer(`m${i}`, `q${i}`, i < 299 ? placing(`q${i + 1}`) : {}));
  }),
  made('ten of ten, twelve levels deep', 'too-large', (m) => {
    m.scene('f0').layer('l', 'f0', placing('q0'));
    times(11, (i) => {
      m.scene(`q${i}`, 'part');
      times(10, (k) => m.layer(`m${i}x${k}`, `q${i}`, i < 10 ? placing(`q${i + 1}`) : {}));
    });
  }),
  made('values nested 5,000 deep', 'missing', (m) => {
    let inner: object = {};
    times(5000, () => (inner = { a: inner }));
    m.scene('f0', 'frame', { states: inner });
  }),
  made('a key that is no id', 'wrong-value', (m) => m.scene('f0', 'frame', { states: { '!': null } })),
  made('a state called constructor', 'wrong-value', (m) =>
    m.scene('f0', 'frame', { states: { constructor: { name: 'a', order: 'a', deltas: {} } }, initial: 'constructor' })
  ),
  made('a layer called valueOf', 'wrong-id', (m) => m.scene('f0').layer('valueOf', 'f0')),
  made('20 threads that send one signal 50 times', null, (m) => {
    m.scene('f0')
      .layer('l', 'f0')
      .thread('c', 'layer', 'l', { type: 'click' }, [{ do: 'send', signal: 'x' }]);
    const steps = Array.from({ length: 50 }, () => ({ do: 'send', signal: 'x' }));
    times(20, (i) => m.thread(`t${i}`, 'scene', 'f0', { type: 'signal', signal: 'x' }, steps));
  }),
  made('a text set to itself twice over', null, (m) => {
    const steps = Array.from({ length: 50 }, () => ({ do: 'set', variable: 'v', value: '‹v› + ‹v›' }));
    m.scene('f0').layer('l', 'f0').variable('v', 'text', 'ab').thread('c', 'layer', 'l', { type: 'click' }, steps);
  }),
  made('300 texts of 5,000 braces', null, (m) => {
    m.scene('f0');
    times(300, (i) => m.layer(`l${i}`, 'f0', { type: 'text', text: '{'.repeat(4990) + i }));
  }),
  made('braces and quotes in turn', null, (m) => m.text(`${'{"'.repeat(2490)}}`)),
  made('2,900 frames and 10,000 variables', null, (m) => {
    times(2900, (i) => m.scene(`f${i}`));
    times(10_000, (i) => m.variable(`v${i}`, 'number', 0, i % 2 ? `f${i % 2900}` : null));
  }),
  made('1,980 minus signs', null, (m) => m.text(`{${'-'.repeat(1980)}1}`)),
  made('980 brackets', null, (m) => m.text(`{${'('.repeat(980)}1${')'.repeat(980)}}`)),
];
