import type { Layer, Piece, Thread } from '../../piece/piece.ts';
import { threadsOf } from '../../piece/piece.ts';
import { onceFor } from '../../once.ts';
import type { Program, SceneProgram } from '../../program/program.ts';
import { targetWords } from '../../lines/sentence.ts';
import { originalOf } from '../copies.ts';
import { finding, type Finding, type Rule, type RuleContext } from '../finding.ts';

export const repeatedTarget: Rule = {
  id: 'repeated-target',
  words: 'same as another',
  meaning:
    'copies with different texts of which some still lead to the same place or link while others lead elsewhere; two copies with one link always',
  spares: 'copies that each lead to a place of their own, and links of different layers to one page',
  check: (context) => families(context.program).flatMap((family) => check(context, family)),
};

/** A layer and its copies in one frame, in the order of the document. */
function families({ piece, scenes }: Program): Layer[][] {
  const groups = new Map<string, Layer[]>();
  for (const layer of [...scenes.values()].flatMap(copiesIn)) {
    const root = originalOf(piece, layer);
    const key = `${root}/${layer.scene}`;
    const group = groups.get(key) ?? [];
    const source = piece.layers.get(root);
    if (group.length === 0 && source?.scene === layer.scene) group.push(source);
    group.push(layer);
    groups.set(key, group);
  }
  return [...groups.values()].filter((group) => group.length > 1).map((group) => group.sort((a, b) => (a.order < b.order ? -1 : 1)));
}

const copiesIn = onceFor(({ items }: SceneProgram): readonly Layer[] => items.map(({ layer }) => layer).filter(({ copyOf }) => copyOf !== undefined));

interface Lead {
  readonly layer: Layer;
  readonly thread: Thread;
  readonly to: string;
  readonly words: string;
  readonly link: boolean;
}

function check({ program: { piece }, scope }: RuleContext, family: readonly Layer[]): Finding[] {
  const leads = family.flatMap((layer) => leadOf(piece, layer, (thread) => targetOf(thread, scope)));
  const places = new Set(leads.map((lead) => lead.to));
  return leads.flatMap((lead, i) => {
    const twin = leads.slice(0, i).find((other) => other.to === lead.to && labelOf(piece, other.layer) !== labelOf(piece, lead.layer));
    if (!twin || (places.size < 2 && !lead.link)) return [];
    const place = { scene: lead.layer.scene, layer: lead.layer.id, thread: lead.thread.id };
    const sentence = `It is a copy that still leads to ${lead.words}, as ${labelOf(piece, twin.layer)} does.`;
    return [finding('repeated-target', 'look', place, `${lead.layer.name} leads where ${twin.layer.name} leads`, sentence)];
  });
}

function leadOf(piece: Piece, layer: Layer, target: (thread: Thread) => Omit<Lead, 'layer' | 'thread'> | null): Lead[] {
  const thread = threadsOf(piece, layer.id).find((candidate) => candidate.enabled && candidate.cue.type === 'click');
  const to = thread ? target(thread) : null;
  return thread && to ? [{ layer, thread, ...to }] : [];
}

function targetOf(thread: Thread, scope: RuleContext['scope']): Omit<Lead, 'layer' | 'thread'> | null {
  const step = thread.branches[0]?.steps[0];
  if (!step) return null;
  if (step.do === 'open') return { to: `link ${step.address}`, words: step.address, link: true };
  if (step.do !== 'go' || step.target.to !== 'frame' || step.target.frame === null) return null;
  return { to: `frame ${step.target.frame}`, words: targetWords(step.target, scope), link: false };
}

/** What a person reads on it: its own text, else the first text in it, else its name. */
function labelOf(piece: Piece, layer: Layer): string {
  if (layer.text) return layer.text;
  const inside = [...(piece.index.childrenOf.get(layer.id) ?? [])].map((id) => piece.layers.get(id)).find((child) => child?.text);
  return inside?.text ?? layer.name;
}
