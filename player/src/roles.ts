import { isFocusable, threadsAt, type Node, type Shown } from '@zany/core/engine';

/** What layers are to assistive technology. */

const clicks = (node: Node) => threadsAt(node).filter((thread) => thread.enabled && thread.cue.type === 'click');

/** The role of a layer in a running piece; null for one that is just looked at. */
export function roleOf(node: Node): string | null {
  const { role } = node.layer;
  if (role) return role === 'none' || role === 'text' ? null : role === 'image' ? 'img' : role;
  if (node.layer.type === 'field') return null;
  const threads = clicks(node);
  if (threads.length === 0) return isFocusable(node) ? 'group' : null;
  const steps = threads.flatMap((thread) => thread.branches.flatMap((branch) => branch.steps));
  return steps.length > 0 && steps.every((step) => step.do === 'open') ? 'link' : 'button';
}

/** Whether being selected means something to people. */
export const canBeSelected = ({ layer }: Node): boolean =>
  layer.choice !== undefined || layer.selected !== undefined || layer.looks?.selected !== undefined || layer.bindings?.selected !== undefined;

/** Its own accessible name, what is written on it or in it, else its name. */
export function nameOf(shown: Shown): string {
  const { layer } = shown.node;
  return layer.label ?? (textOf(shown) || layer.name);
}

const textOf = (shown: Shown): string =>
  [shown.text ?? '', ...shown.children.map(textOf)]
    .map((text) => text.trim())
    .filter(Boolean)
    .join(' ');
