import { parseExpression } from '../../expression/parse.ts';
import type { MakeId } from '../../edit/make-id.ts';
import { newThread } from '../../edit/commands/threads.ts';
import { keysBetween } from '../../edit/order.ts';
import type { Operation } from '../../edit/operation.ts';
import { framesOf, variablesOf, type Layer, type Piece, type Scene, type Thread, type Variable } from '../../piece/piece.ts';
import { fail, fault, ok } from '../../result.ts';
import { cutText } from '../../text.ts';
import type { Step } from '../../vocabulary/steps/all.ts';
import { count, takeName } from '../../words.ts';
import { defineImport, type CameIn } from './define.ts';
import { at, attribute, everyOf, readXml, textIn, within, type Xml } from './xml.ts';

export const scxml = defineImport({
  kind: 'scxml',
  label: 'state charts',
  meaning: 'states as frames still to be drawn, each with a button for every event it listens to; transitions as threads, data as variables',
  isWhole: true,
  endings: ['.scxml'],
  read: (piece, bytes, makeId) => {
    const xml = readXml(bytes, { 'http://www.w3.org/2005/07/scxml': '' });
    if (!xml.ok) return xml;
    if (xml.value.name !== 'scxml') return fail(fault('no-chart', [], 'This is no state chart: it does not begin with scxml.'));
    const chart = new ChartReading(piece, xml.value, makeId);
    return chart.states.length ? ok(chart.run()) : fail(fault('no-states', [], 'This state chart has no states.'));
  },
});

/** States that come in at most. */
const MOST = 500;

/** A state without others in it, with those around it from the innermost outwards. */
interface Atom {
  readonly id: string;
  readonly node: Xml;
  readonly around: readonly Xml[];
}

type Branch = Thread['branches'][number];

/** A state chart (W3C, SCXML 1.0). */
class ChartReading {
  readonly states: readonly Atom[];
  private readonly operations: Operation[] = [];
  private readonly left: string[] = [];
  private readonly frames: ReadonlyMap<string, string>;
  private readonly variables = new Map<string, Variable>();
  private threads = 0;

  constructor(
    private readonly piece: Piece,
    private readonly root: Xml,
    private readonly makeId: MakeId
  ) {
    const taken = new Set<string>();
    const all = [...atomsIn(root, [])]
      .filter(({ node }) => passedTo(node) === null)
      .flatMap((atom, i) => {
        const id = atom.id || `State ${i + 1}`;
        if (taken.has(id)) this.left.push(`${id}: a second state that is called so`);
        return taken.has(id) ? [] : (taken.add(id), [{ ...atom, id }]);
      });
    if (all.length > MOST) this.left.push(`${all.length - MOST} of ${all.length} states`);
    this.states = all.slice(0, MOST);
    this.frames = new Map(this.states.map(({ id }) => [id, makeId()] as const));
  }

  run(): CameIn {
    for (const parallel of everyOf(this.root, 'parallel'))
      this.left.push(`${attribute(parallel, 'id') ?? 'parallel'}: what goes on side by side; its states come one by one`);
    for (const history of everyOf(this.root, 'history')) this.left.push(`${attribute(history, 'id') ?? 'history'}: where one was`);
    this.makeVariables();
    const there = framesOf(this.piece);
    const keys = keysBetween(there.at(-1)?.order ?? null, null, this.states.length);
    const names = new Set(there.map(({ name }) => name));
    this.states.forEach((state, i) => this.makeFrame(state, keys[i]!, names));
    const begun = this.frames.get(this.targetOf(attribute(this.root, 'initial')) ?? this.states[0]!.id);
    if (begun !== undefined && this.piece.head.start.length === 0)
      this.operations.push({ op: 'set', table: 'piece', id: this.piece.head.id, path: ['start'], value: [begun] });
    const made = [
      count(this.states.length, 'frame'),
      ...(this.threads ? [count(this.threads, 'thread')] : []),
      ...(this.variables.size ? [count(this.variables.size, 'variable')] : []),
    ];
    return { operations: this.operations, made, left: this.left };
  }

  private makeVariables(): void {
    const data = [...everyOf(this.root, 'data')].filter((node) => !isReserved(attribute(node, 'id')));
    const there = variablesOf(this.piece, null);
    const keys = keysBetween(there.at(-1)?.order ?? null, null, data.length);
    const names = new Set(there.map(({ name }) => name));
    data.forEach((node, i) => {
      const id = attribute(node, 'id') ?? '';
      const initial = constantIn(attribute(node, 'expr') ?? textIn(node));
      if (initial === null) return void this.left.push(`${id}: what it holds is no number, text, true or false`);
      const type = typeof initial === 'boolean' ? 'yes/no' : typeof initial === 'number' ? 'number' : 'text';
      const name = takeName(names, cutText(id, 110) || 'Value');
      const variable = { id: this.makeId(), scene: null, order: keys[i]!, name, type, initial } as Variable;
      this.variables.set(id, variable);
      this.operations.push({ op: 'put', table: 'variables', value: variable });
    });
  }

  private makeFrame({ id, node, around }: Atom, order: string, names: Set<string>): void {
    const { width, height } = this.piece.head;
    const frame = this.frames.get(id)!;
    const isEnd = node.name === 'final';
    const scene: Scene = {
      id: frame,
      use: 'frame',
      name: takeName(names, cutText(id, 110) || 'State'),
      order,
      width,
      height,
      background: '#ffffff',
      draft: true,
      ...(isEnd && { ending: true }),
    };
    this.operations.push({ op: 'put', table: 'scenes', value: scene });
    const holders = [node, ...around];
    const sent = new Map(holders.flatMap((holder) => within(at(holder, 'onentry'), 'send')).flatMap(delayed));
    // What a state itself does with an event hides what those around it do.
    const byEvent = new Map<string, Branch[]>();
    for (const transition of holders.flatMap((holder) => within(holder, 'transition'))) {
      for (const event of (attribute(transition, 'event') ?? '').trim().split(/\s+/)) {
        const branch = this.branchOf(transition, `${id}${event ? `, ${event}` : ''}`);
        const branches = byEvent.get(event) ?? [];
        const isDecided = branches.some((one) => one.if === undefined);
        if (branch && !isDecided && branches.length < 20) byEvent.set(event, [...branches, branch]);
      }
    }
    const entered = this.enteredSteps(holders, id);
    if (entered.length) this.addThread('scene', frame, { type: 'after', ms: 1 }, [{ steps: entered }]);
    let buttons = 0;
    for (const [event, branches] of byEvent) {
      const ms = sent.get(event);
      const key = /^key\.(.+)$/.exec(event)?.[1];
      if (event === '') {
        this.addThread('scene', frame, { type: 'after', ms: 1 }, branches);
        for (const variable of this.readIn(branches)) this.addThread('scene', frame, { type: 'variable', variable }, branches);
      } else if (ms !== undefined) this.addThread('scene', frame, { type: 'after', ms: Math.max(1, ms) }, branches);
      else if (key !== undefined && key.length <= 40) this.addThread('scene', frame, { type: 'key', key }, branches);
      else if (/^(done|error)\./.test(event)) this.left.push(`${id}, ${event}: what the interpreter itself says`);
      else this.addThread('layer', this.addButton(frame, event, buttons++), { type: 'click' }, branches);
    }
  }

  /** A button for what comes from outside, one under the other. */
  private addButton(scene: string, event: string, place: number): string {
    const { width } = this.piece.head;
    const name = cutText(event.replace(/^click\./, ''), 110) || 'Button';
    const side = Math.min(24, Math.round(width / 10));
    const layer: Layer = {
      id: this.makeId(),
      scene,
      parent: null,
      order: keysBetween(null, null, place + 1)[place]!,
      name,
      type: 'box',
      pose: { x: side, y: 88 + place * 64, width: Math.max(1, width - 2 * side), height: 48 },
      style: { fill: '#1f4e5f', ink: '#ffffff', corner: 8 },
      letters: { align: 'center', place: 'middle' },
      text: name.replace(/[\\{}]/g, ''),
      role: 'button',
    };
    this.operations.push({ op: 'put', table: 'layers', value: layer });
    return layer.id;
  }

  private addThread(on: 'layer' | 'scene', owner: string, cue: Thread['cue'], branches: readonly Branch[]): void {
    const order = `a${this.threads.toString(36).padStart(6, '0')}z`;
    this.operations.push(newThread(this.makeId(), on, owner, { cue, branches: [...branches] }, order));
    this.threads++;
  }

  /** What a transition does, and when; null where it cannot be said. */
  private branchOf(transition: Xml, what: string): Branch | null {
    const cond = attribute(transition, 'cond');
    // That an event of its own clock is not late need not be asked: who leaves a frame waits no more.
    const written = cond !== undefined && NOT_LATE.test(cond) ? undefined : cond;
    const condition = written === undefined ? undefined : this.expression(written);
    if (condition === null) {
      this.left.push(`${what}: its condition (${cutText(written!, 80)})`);
      return null;
    }
    const steps = this.stepsIn(transition, what);
    const target = attribute(transition, 'target');
    if (target !== undefined) {
      const frame = this.frames.get(this.targetOf(target) ?? '');
      if (frame === undefined) {
        this.left.push(`${what}: it leads to ${cutText(target, 80)}, which is not there`);
        return null;
      }
      steps.push({ do: 'go', target: { to: 'frame', frame }, transition: { type: 'cut' } });
    }
    return steps.length ? { ...(condition !== undefined && { if: condition }), steps } : null;
  }

  private enteredSteps(holders: readonly Xml[], what: string): Step[] {
    return holders.flatMap((holder) => within(holder, 'onentry').flatMap((entry) => this.stepsIn(entry, what)));
  }

  private stepsIn(holder: Xml, what: string): Step[] {
    return within(holder).flatMap((node): Step[] => {
      if (node.name === 'assign') {
        if (isReserved(attribute(node, 'location'))) return [];
        const variable = this.variables.get((attribute(node, 'location') ?? '').trim());
        const value = this.expression(attribute(node, 'expr') ?? textIn(node));
        if (variable && value !== null) return [{ do: 'set', variable: variable.id, value }];
      } else if (node.name === 'raise' || (node.name === 'send' && attribute(node, 'event') !== undefined)) {
        // Those that come back to the state itself after a time are its own clock.
        if (delayed(node).length) return [];
      } else if (node.name === 'log') return [];
      this.left.push(`${what}: ${node.name}`);
      return [];
    });
  }

  /** The state without others in it that a target comes down to. */
  private targetOf(target: string | undefined): string | null {
    let id = target?.trim().split(/\s+/)[0];
    for (let deep = 0; id !== undefined && id !== '' && deep < 100; deep++) {
      if (this.frames.has(id)) return id;
      const node: Xml | undefined = [...everyOf(this.root, 'state'), ...everyOf(this.root, 'parallel')].find((one) => attribute(one, 'id') === id);
      const passed = node ? passedTo(node) : null;
      if (passed !== null) {
        id = passed;
        continue;
      }
      const inner = within(node).find(({ name }) => name === 'state' || name === 'parallel' || name === 'final');
      id = attribute(node, 'initial') ?? attribute(at(node, 'initial', 'transition'), 'target') ?? attribute(inner, 'id');
    }
    return null;
  }

  private readIn(branches: readonly Branch[]): string[] {
    const ids = [...this.variables.values()].map(({ id }) => id);
    return ids.filter((id) => branches.some((branch) => branch.if?.includes(`‹${id}›`)));
  }

  /** An expression of ECMAScript in the piece's own language; null where it has no such form. */
  private expression(written: string): string | null {
    const tokens = written.match(/"(?:[^"\\]|\\.)*"|'(?:[^'\\]|\\.)*'|[A-Za-z_$][\w$]*|\d+(?:\.\d+)?|[=!]==?|[<>]=?|&&|\|\||[-+*/()!]|\S/g) ?? [];
    const said: string[] = [];
    for (const token of tokens) {
      const text = this.tokenIn(token);
      if (text === null) return null;
      said.push(text);
    }
    // What is denied is put in brackets by the language itself.
    const text = said
      .join(' ')
      .replace(/not \(/g, 'not(')
      .replace(/not (‹[^›]+›|true|false)/g, 'not($1)');
    return parseExpression(text).ok ? text : null;
  }

  private tokenIn(token: string): string | null {
    if (/^["']/.test(token)) return JSON.stringify(token.slice(1, -1).replace(/\\(.)/g, '$1'));
    if (/^[A-Za-z_$]/.test(token)) {
      const variable = this.variables.get(token);
      return variable ? `‹${variable.id}›` : token === 'true' || token === 'false' ? token : null;
    }
    return SIGNS[token] ?? (/^\d/.test(token) ? token : null);
  }
}

/** Signs of ECMAScript in the language of pieces. */
const SIGNS: Readonly<Record<string, string>> = {
  '==': '=',
  '===': '=',
  '!=': '!=',
  '!==': '!=',
  '&&': 'and',
  '||': 'or',
  '!': 'not',
  ...Object.fromEntries(['<', '<=', '>', '>=', '+', '-', '*', '/', '(', ')'].map((sign) => [sign, sign])),
};

function* atomsIn(holder: Xml, around: readonly Xml[]): Generator<Atom> {
  for (const node of within(holder)) {
    if (node.name !== 'state' && node.name !== 'parallel' && node.name !== 'final') continue;
    if (within(node).some(({ name }) => name === 'state' || name === 'parallel' || name === 'final')) yield* atomsIn(node, [node, ...around]);
    else yield { id: attribute(node, 'id') ?? '', node, around };
  }
}

/** Names that begin so belong to the interpreter (SCXML 1.0, 5.10). */
const isReserved = (name: string | undefined): boolean => name?.trim().startsWith('_') ?? false;

const NOT_LATE = /^\(?_event\.data\.\w+ === _\w+\)?$/;

/** Where a state leads that nobody stays in: it does nothing but lead on at once. */
function passedTo(node: Xml): string | null {
  const [only, ...more] = within(node);
  const isPassed = only?.name === 'transition' && more.length === 0 && within(only).length === 0;
  if (!isPassed || attribute(only, 'event') !== undefined || attribute(only, 'cond') !== undefined) return null;
  return attribute(only, 'target') ?? null;
}

/** The event that is sent after a time, and after how many ms; none where it is sent at once. */
function delayed(node: Xml): (readonly [event: string, ms: number])[] {
  const [, number, unit] = /^([\d.]+)(ms|s)$/.exec(attribute(node, 'delay')?.trim() ?? '') ?? [];
  const ms = Math.round(Number(number) * (unit === 's' ? 1000 : 1));
  return number !== undefined && ms > 0 && ms <= 86_400_000 ? [[attribute(node, 'event') ?? '', ms]] : [];
}

/** A number, a text, true or false; null for anything else. */
function constantIn(written: string): number | string | boolean | null {
  const text = written.trim();
  if (text === 'true' || text === 'false') return text === 'true';
  if (/^-?\d+(\.\d+)?$/.test(text)) return Number(text);
  return /^(".*"|'.*')$/.test(text) ? cutText(text.slice(1, -1), 2000) : null;
}
