import type { Selector, StyledBy } from './css';
import type { SvgElement } from './tree';

/** What it takes to draw an SVG, every reference counted with all that it refers to. */
export interface Weight {
  /** Elements drawn; infinite for one that refers to itself. */
  readonly elements: number;
  /** Pictures as large as the whole that are worked out on the way: filters by their steps, masks, blends. */
  readonly layers: number;
  /** The longest chain of references and elements inside each other. */
  readonly depth: number;
}

export interface Reference {
  readonly property: string;
  readonly id: string;
}

/** References and effects of an element by its own attributes. */
export interface Own {
  readonly references: readonly Reference[];
  readonly filters: number;
}

const NOTHING: Weight = { elements: 0, layers: 0, depth: 0 };
const ENDLESS: Weight = { elements: Infinity, layers: Infinity, depth: Infinity };

/** Weighs a tree without recursion; each element once. */
export function weigh(root: SvgElement, own: ReadonlyMap<SvgElement, Own>, styled: readonly StyledBy[]): Weight {
  const byId = new Map<string, SvgElement>();
  for (const element of own.keys()) {
    const id = element.attributes.get('id');
    if (id !== undefined && !byId.has(id)) byId.set(id, element);
  }
  const known = new Map<SvgElement, Weight>();
  const open = new Set<SvgElement>();
  const stack = [root];
  const linksOf = linker(own, styled, byId);
  while (stack.length) {
    const element = stack.at(-1)!;
    if (known.has(element)) {
      stack.pop();
      continue;
    }
    const { targets, filters } = linksOf(element);
    const inside = element.children.filter((child): child is SvgElement => typeof child !== 'string');
    if (open.has(element)) {
      stack.pop();
      open.delete(element);
      known.set(element, sum(element, inside, targets, filters, known));
      continue;
    }
    open.add(element);
    for (const next of [...inside, ...targets.map(({ target }) => target)]) {
      if (open.has(next)) return ENDLESS;
      if (!known.has(next)) stack.push(next);
    }
  }
  return known.get(root)!;
}

interface Target {
  readonly property: string;
  readonly target: SvgElement;
}

function linker(own: ReadonlyMap<SvgElement, Own>, styled: readonly StyledBy[], byId: ReadonlyMap<string, SvgElement>) {
  return (element: SvgElement): { targets: readonly Target[]; filters: number } => {
    const { references, filters } = own.get(element)!;
    const fits = styled.filter(({ selectors }) => selectors.some((selector) => isMeant(element, selector)));
    const all = [...references, ...fits.flatMap((rule) => rule.references)];
    const targets = all.flatMap(({ property, id }) => {
      const target = byId.get(id);
      return target ? [{ property, target }] : [];
    });
    return { targets, filters: fits.reduce((total, rule) => total + rule.filters, filters) };
  };
}

const isMeant = ({ name, attributes }: SvgElement, { tag, id, classes }: Selector): boolean =>
  (tag === null || tag === name) &&
  (id === null || id === attributes.get('id')) &&
  classes.every((one) => ` ${attributes.get('class') ?? ''} `.includes(` ${one} `));

function sum(
  element: SvgElement,
  inside: readonly SvgElement[],
  targets: readonly Target[],
  filters: number,
  known: ReadonlyMap<SvgElement, Weight>
): Weight {
  const isDrawn = !ONLY_REFERRED.has(element.name);
  const parts: Weight[] = inside.map((child) =>
    isDrawn && ONLY_REFERRED.has(child.name) ? { ...NOTHING, depth: known.get(child)!.depth } : known.get(child)!
  );
  for (const { property, target } of targets) parts.push(referred(element, property, target, known.get(target)!));
  return {
    elements: parts.reduce((total, part) => total + part.elements, 1),
    layers: parts.reduce((total, part) => total + part.layers, filters + (STEP.test(element.name) ? 1 : 0)),
    depth: parts.reduce((deepest, part) => Math.max(deepest, part.depth), 0) + 1,
  };
}

/** Elements whose content is only drawn where it is referred to. */
const ONLY_REFERRED = new Set(['defs', 'symbol', 'marker', 'mask', 'pattern', 'clipPath', 'filter', 'linearGradient', 'radialGradient']);
/** One step of a filter. */
const STEP = /^fe[A-Z]/;
/** A pattern is drawn as a tile, and the tile often again. */
const TILES = 4;

function referred(element: SvgElement, property: string, { name }: SvgElement, weight: Weight): Weight {
  const times = name === 'marker' ? vertices(element) : name === 'pattern' ? TILES : 1;
  const own = name === 'mask' || property === 'mask' ? 1 : 0;
  return { elements: weight.elements * times, layers: (weight.layers + own) * times, depth: weight.depth };
}

/** Where markers stand on a shape, about. */
const vertices = ({ attributes }: SvgElement): number =>
  Math.max(2, ((attributes.get('d') ?? attributes.get('points') ?? '').match(/[-+]?(\d+\.?\d*|\.\d+)/g)?.length ?? 0) / 2);
