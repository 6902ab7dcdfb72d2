import { valueWords, type Value } from '../expression/ast.ts';
import { expand, type Expansion } from '../program/expand.ts';
import type { Instance, Node } from '../program/node.ts';
import type { Program } from '../program/program.ts';
import { isEnabled, isSelected, isShown, stateOf } from './resolve.ts';
import { valueOfField, valueOfVariable } from './environment.ts';
import { currentFrame, sectionAt } from './playhead.ts';
import type { RootRun, RunState } from './state.ts';

/**
 * What is different after an event, in a few words each, in the order of the document: frames, variables, what is selected,
 * enabled, shown, what stands in fields, states, sections of timelines. Empty where nothing is.
 */
export function changesBetween(program: Program, before: RunState, after: RunState): string[] {
  const changes: string[] = [];
  const name = (frame: string) => program.piece.scenes.get(frame)?.name ?? 'a frame that is gone';
  if (before.frame !== after.frame) changes.push(`${name(before.frame)} → ${name(after.frame)}`);
  for (const { frame } of after.overlays) if (!before.overlays.some((one) => one.frame === frame)) changes.push(`${name(frame)} laid over`);
  for (const { frame } of before.overlays) if (!after.overlays.some((one) => one.frame === frame)) changes.push(`${name(frame)} lifted`);
  for (const variable of program.variables.values()) {
    if (variable.scene !== null) continue;
    const [was, now] = [before, after].map((run) => valueOfVariable(program, run, variable.id, variable.id)) as [Value, Value];
    if (was !== now) changes.push(`${variable.name} ${valueWords(was)} → ${valueWords(now)}`);
  }
  for (const [id, now] of Object.entries(after.roots)) {
    const was = before.roots[id];
    const scene = program.scenes.get(id);
    if (was && was !== now && scene) changes.push(...changesIn(program, expand(program, scene), before, was, after, now));
  }
  return changes;
}

function changesIn(program: Program, { nodes, instances }: Expansion, before: RunState, was: RootRun, after: RunState, now: RootRun): string[] {
  const states = [...instances.values()].flatMap((instance) => {
    const [from, to] = [was, now].map((root) => stateOf(root, instance));
    if (from === to) return [];
    const named = instance.scene.states.find(({ id }) => id === to)?.name ?? '';
    return [`${instance.placement?.layer.name ?? instance.scene.scene.name} in ${named}`];
  });
  const sections = [...instances.values()].flatMap((instance) => {
    const [from, to] = [sectionOf(program, before, was, instance), sectionOf(program, after, now, instance)];
    return from === to || to === null ? [] : [`${instance.placement?.layer.name ?? instance.scene.scene.name} at ${to}`];
  });
  return [...states, ...sections, ...nodes.flatMap((node) => changesOf(program, node, before, was, after, now))];
}

/** The name of the labelled section that an instance's timeline is in; null where none is. */
function sectionOf(program: Program, run: RunState, root: RootRun, instance: Instance): string | null {
  const { timeline } = instance.scene.scene;
  const frame = currentFrame(program, run, root, instance);
  const label = timeline && frame !== null ? sectionAt(timeline, frame)?.label : null;
  return label ? (timeline!.labels?.[label]?.name ?? null) : null;
}

function changesOf(program: Program, node: Node, before: RunState, was: RootRun, after: RunState, now: RootRun): string[] {
  const { name, field } = node.layer;
  const found: string[] = [];
  const isTick = field?.kind === 'checkbox' || field?.kind === 'switch';
  if (isSelected(was, node) !== isSelected(now, node))
    found.push(`${name} ${isSelected(now, node) ? (isTick ? 'ticked' : 'selected') : isTick ? 'unticked' : 'unselected'}`);
  if (isEnabled(was, node) !== isEnabled(now, node)) found.push(`${name} ${isEnabled(now, node) ? 'enabled' : 'disabled'}`);
  const shown = isShown(program, after, now, node);
  if (isShown(program, before, was, node) !== shown) found.push(`${name} ${shown ? 'shown' : 'hidden'}`);
  const value = isTick ? undefined : valueOfField(now, node);
  if (value !== undefined && value !== valueOfField(was, node)) found.push(`${name} holds ${valueWords(value)}`);
  return found;
}
