import { displayExpression } from '../../expression/names.ts';
import { printCue } from '../../lines/line.ts';
import { scopeFor } from '../../lines/scope.ts';
import { withHolders } from '../../piece/holders.ts';
import { sceneOfThread, type Piece, type Thread } from '../../piece/piece.ts';
import { programOf } from '../audited.ts';
import { startFrames, type Program } from '../../program/program.ts';
import { targetOf, type Step } from '../../vocabulary/steps/all.ts';

/** The flow of a piece as a graph: frames, and for every branch that leads on from one to another an edge with its cue and condition. */
export interface Flow {
  readonly nodes: readonly FlowNode[];
  readonly edges: readonly FlowEdge[];
}

export interface FlowNode {
  /** The id of the frame; `back` for where one came from, `anywhere` for threads of the piece, `web N` for an address. */
  readonly id: string;
  readonly name: string;
  readonly kind: 'frame' | 'back' | 'anywhere' | 'address';
  readonly begins: boolean;
  readonly bundle: string | null;
}

export interface FlowEdge {
  readonly from: string;
  readonly to: string;
  /** `click Plan a trip`. */
  readonly cue: string;
  readonly condition: string | null;
  readonly kind: 'goes' | 'lays over' | 'opens';
  readonly thread: string;
  readonly branch: number;
}

export function flowOf(piece: Piece): Flow {
  const program = programOf(piece);
  const begins = new Set(startFrames(program));
  const nodes = new Map<string, FlowNode>();
  for (const id of program.frames) {
    const { name, bundle } = program.scenes.get(id)!.scene;
    nodes.set(id, {
      id,
      name,
      kind: 'frame',
      begins: begins.has(id),
      bundle: bundle === undefined ? null : (piece.head.bundles?.[bundle]?.name ?? null),
    });
  }
  const addresses = new Map<string, string>();
  const other = (id: string, name: string, kind: FlowNode['kind']): string => {
    if (!nodes.has(id)) nodes.set(id, { id, name, kind, begins: false, bundle: null });
    return id;
  };
  const edges: FlowEdge[] = [];
  for (const thread of piece.threads.values()) {
    if (!thread.enabled) continue;
    const scene = sceneOfThread(piece, thread);
    const froms = scene === null ? [other('anywhere', 'anywhere', 'anywhere')] : shownOn(program, scene);
    const cue = cueWords(piece, thread);
    thread.branches.forEach((branch, i) => {
      const condition = conditionWords(piece, thread, i);
      for (const step of branch.steps)
        for (const from of froms) {
          const to = whereTo(program, from, step);
          const address = step.do === 'open' ? step.address : null;
          if (address && !addresses.has(address)) addresses.set(address, `web ${addresses.size + 1}`);
          const end =
            address !== null && address !== ''
              ? other(addresses.get(address)!, address, 'address')
              : to === 'back'
                ? other('back', 'where one came from', 'back')
                : to;
          if (end === null) continue;
          edges.push({
            from,
            to: end,
            cue,
            condition,
            kind: address ? 'opens' : step.do === 'lay' ? 'lays over' : 'goes',
            thread: thread.id,
            branch: i,
          });
        }
    });
  }
  return { nodes: [...nodes.values()], edges };
}

/** The frames on which something of a scene can be pressed: itself, those that carry it, those in which it is placed, by way of others too. */
function shownOn(program: Program, scene: string): string[] {
  const found = withHolders([program.piece], [scene]);
  return program.frames.filter((id) => found.has(id));
}

/** The frame that a step leads to from another one; null where it leads nowhere, or to none that is there. */
function whereTo({ frames, scenes, piece }: Program, from: string, step: Step): string | null {
  const target = step.do === 'lay' ? ({ to: 'frame', frame: step.frame } as const) : targetOf(step);
  if (!target) return null;
  const at = frames.indexOf(from);
  const to =
    target.to === 'frame'
      ? target.frame
      : {
          next: at < 0 ? null : frames[at + 1],
          previous: at < 0 ? null : frames[at - 1],
          first: frames[0],
          last: frames.at(-1),
          start: piece.head.start[0] ?? frames[0],
          back: 'back',
        }[target.to];
  return to === 'back' ? 'back' : to !== null && to !== undefined && scenes.has(to) ? to : null;
}

function cueWords(piece: Piece, thread: Thread): string {
  const cue = printCue(thread.cue, scopeFor(piece, thread));
  const owner = thread.on === 'layer' ? piece.layers.get(thread.owner)?.name : null;
  return owner ? `${cue} ${owner}` : cue;
}

function conditionWords(piece: Piece, thread: Thread, i: number): string | null {
  const condition = thread.branches[i]!.if;
  if (condition !== undefined) return displayExpression(condition, scopeFor(piece, thread).expression).text;
  return i > 0 ? 'otherwise' : null;
}

/** What an edge says in one line. */
export const edgeWords = ({ cue, condition }: FlowEdge): string =>
  condition === null ? cue : condition === 'otherwise' ? `${cue}, otherwise` : `${cue} if ${condition}`;

/** What of a flow a graph does not say. */
export const FLOW_OMITS = ['looks, states, fields and timelines', 'steps that lead nowhere else'] as const;
