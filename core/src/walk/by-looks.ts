import { onceFor } from '../once.ts';
import type { Delta, Look, LookName } from '../piece/schema.ts';
import type { Node } from '../program/node.ts';
import type { SceneProgram } from '../program/program.ts';

/** Looks that show or hide something: as long as the pointer is over a layer, or it has the focus, other things can be done. */

const HOVERED: readonly LookName[] = ['hover', 'selectedHover'];
const FOCUSED: readonly LookName[] = ['focus'];

const says = (delta: Delta | undefined): boolean => delta?.hidden !== undefined;
const saysInside = ({ inside }: Look): boolean => Object.values(inside ?? {}).some(says);

/** Whether something can be done with a layer, or with something in it. */
const isLively = (node: Node): boolean => node.catches || node.item.threads.length > 0 || node.children.some(isLively);

/** Whether looks of a layer show or hide it, or something in it, with which something can be done: of what is only seen nothing else comes. */
function showsBy(node: Node, names: readonly LookName[]): boolean {
  const looks = names.flatMap((name) => node.layer.looks?.[name] ?? []);
  const isShownSo = (inner: Node): boolean => {
    const path = inner.changedBy.find((one) => one.node === node)?.path;
    return (path !== undefined && looks.some(({ inside }) => says(inside?.[path])) && isLively(inner)) || inner.children.some(isShownSo);
  };
  return looks.some(says) || (looks.some(saysInside) && node.children.some(isShownSo));
}

/** Whether something is shown or hidden while the pointer is over a layer. */
export const showsByHover = onceFor((node: Node): boolean => showsBy(node, HOVERED));

/** Whether something is shown or hidden while a layer has the focus. */
export const showsByFocus = onceFor((node: Node): boolean => showsBy(node, FOCUSED));

/** Whether looks show or hide anything in a scene, and so for whom. */
export const shownByLooks = onceFor(({ items }: SceneProgram): readonly string[] =>
  items.flatMap(({ layer: { name, looks } }) => (Object.values(looks ?? {}).some((look) => says(look) || saysInside(look)) ? [name] : []))
);
