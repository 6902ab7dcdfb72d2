import { onceFor } from '../../once.ts';
import type { Layer, Piece, Thread } from '../../piece/piece.ts';
import type { Item, Program, SceneProgram } from '../../program/program.ts';
import { asBefore, inEach } from '../again.ts';
import { originalOf } from '../copies.ts';
import { finding, type Finding, type Rule } from '../finding.ts';

export const oddOneOut: Rule = {
  id: 'odd-one-out',
  words: 'odd one out',
  meaning: 'of layers that match across three frames or more (copies, or the same name, text or part), one that leads elsewhere than the rest',
  spares: 'layers that each lead to a place of their own, and one that stands where the others lead',
  check: ({ program }) => {
    const { piece } = program;
    const words = inEach(program, 'leads', wordsIn);
    const copies = inEach(program, 'leading copies', (scene) => leadsIn(scene).some(({ lead }) => lead.layer.copyOf !== undefined));
    // What a copy is a copy of can stand anywhere.
    const layers = asBefore(program, 'copies', [copies], () => [...copies.values()].some(Boolean)) ? piece.layers : null;
    return asBefore(program, 'odd ones', [piece.scenes, layers, words], () => odd(program));
  },
};

function odd(program: Program): Finding[] {
  const told = new Map<string, Finding>();
  for (const family of families(program)) for (const one of oddIn(program, family)) told.set(one.id, one);
  return [...told.values()];
}

/** All that is said of how a frame leads on, as one text to compare. */
const wordsIn = onceFor((scene: SceneProgram): string =>
  JSON.stringify(leadsIn(scene).map(({ lead: { layer, thread, to }, keys }) => [layer.id, layer.name, layer.copyOf, thread.id, to, keys]))
);

interface Lead {
  readonly layer: Layer;
  readonly thread: Thread;
  /** Where it leads, as a text to compare. */
  readonly to: string;
  /** The frame it leads to; null for a link. */
  readonly frame: string | null;
}

/** Matching layers of different frames, each frame with one of them. */
function families(program: Program): readonly (readonly Lead[])[] {
  const found = new Map<string, Lead[]>();
  for (const id of program.frames)
    for (const { lead, keys } of leadsIn(program.scenes.get(id)!))
      for (const key of lead.layer.copyOf === undefined ? keys : [...keys, `copy ${originalOf(program.piece, lead.layer)}`]) {
        const list = found.get(key);
        if (list) list.push(lead);
        else found.set(key, [lead]);
      }
  return [...found.values()].filter((family) => family.length > 2 && new Set(family.map(({ layer }) => layer.scene)).size === family.length);
}

const leadsIn = onceFor(({ items }: SceneProgram): readonly { readonly lead: Lead; readonly keys: readonly string[] }[] =>
  items.flatMap((item) => {
    const lead = leadOf(item);
    return lead ? [{ lead, keys: keysOf(item) }] : [];
  })
);

/** By what layers match: name and text, or the part with what fills it; and what copies of it are copies of. */
function keysOf({ layer, children }: Item): string[] {
  const text = layer.text?.trim() || children.map((child) => child.layer.text?.trim()).find(Boolean);
  const original = layer.copyOf === undefined ? [`copy ${layer.id}`] : [];
  if (layer.part !== undefined) return [`part ${layer.part} ${layer.name.toLowerCase()} ${JSON.stringify(layer.fills ?? {})}`, ...original];
  return text ? [`text ${layer.type} ${layer.name.toLowerCase()} ${text.toLowerCase()}`, ...original] : original;
}

function leadOf({ layer, threads }: Item): Lead | null {
  const thread = threads.find(({ enabled, cue }) => enabled && cue.type === 'click');
  const steps = thread?.branches.length === 1 ? thread.branches[0]!.steps : [];
  const step = steps.find(({ do: what }) => what === 'go' || what === 'open');
  if (!thread || !step) return null;
  if (step.do === 'open') return { layer, thread, to: `link ${step.address}`, frame: null };
  if (step.do !== 'go' || (step.target.to === 'frame' && step.target.frame === null)) return null;
  const frame = step.target.to === 'frame' ? step.target.frame : null;
  return { layer, thread, to: frame === null ? `place ${step.target.to}` : `frame ${frame}`, frame };
}

function oddIn({ piece }: Program, family: readonly Lead[]): Finding[] {
  const counts = new Map<string, Lead[]>();
  for (const lead of family) counts.set(lead.to, [...(counts.get(lead.to) ?? []), lead]);
  const most = [...counts.values()].reduce((best, list) => (list.length > best.length ? list : best));
  const odd = family.filter(({ to }) => to !== most[0]!.to);
  if (most.length < 2 || odd.length === 0 || odd.length > Math.max(1, Math.floor(family.length / 5))) return [];
  return odd.flatMap(({ layer, thread, to }) => {
    // Whoever is there already leads elsewhere.
    if (most[0]!.frame === layer.scene) return [];
    const rest = wordsOf(piece, most[0]!.to);
    const sentence = `${layer.name} leads to ${wordsOf(piece, to)}; on ${most.length} other frames it leads to ${rest}.`;
    return [
      finding('odd-one-out', 'look', { scene: layer.scene, layer: layer.id, thread: thread.id }, `${layer.name} leads elsewhere here`, sentence),
    ];
  });
}

function wordsOf(piece: Piece, to: string): string {
  const [kind, ...rest] = to.split(' ');
  const what = rest.join(' ');
  return kind === 'frame' ? (piece.scenes.get(what)?.name ?? 'a frame that is gone') : kind === 'place' ? `the ${what} frame` : what;
}
