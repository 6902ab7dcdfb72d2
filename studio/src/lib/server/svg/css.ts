import * as csstree from 'css-tree';

/** What is kept of CSS in an SVG: rules and declarations that draw, and nothing that could fetch. */

const MOST_CSS = 200_000;

/** At-rules that only choose among rules. */
const KEPT_RULES = new Set(['media', 'supports']);
/** Functions that name something to fetch, whatever it is called. */
const FETCHING = new Set([
  'image-set',
  '-webkit-image-set',
  'image',
  'cross-fade',
  '-webkit-cross-fade',
  'src',
  'element',
  '-moz-element',
  'paint',
  'expression',
  'attr',
  'var',
]);

/** What a style sheet refers to: for each rule its selectors and the ids it names, and how many filters it sets itself. */
export interface StyledBy {
  readonly selectors: readonly Selector[];
  readonly references: readonly { readonly property: string; readonly id: string }[];
  readonly filters: number;
}

/** The last part of a selector, as far as it says which elements it can mean. */
export interface Selector {
  readonly tag: string | null;
  readonly id: string | null;
  readonly classes: readonly string[];
}

/** Cleans a style sheet; null where it cannot be read. */
export function cleanSheet(css: string): { text: string; styled: StyledBy[] } | null {
  if (css.length > MOST_CSS) return null;
  const tree = parse(css, 'stylesheet');
  if (!tree) return null;
  csstree.walk(tree, {
    visit: 'Atrule',
    enter(node, item, list) {
      if (!KEPT_RULES.has(node.name.toLowerCase())) list?.remove(item);
    },
  });
  dropDeclarations(tree);
  csstree.walk(tree, (node, item, list) => void (node.type === 'Raw' && list?.remove(item)));
  const styled: StyledBy[] = [];
  csstree.walk(tree, {
    visit: 'Rule',
    enter(rule) {
      if (rule.prelude.type !== 'SelectorList') return;
      const found = referencesIn(rule.block);
      if (found.references.length || found.filters) styled.push({ selectors: rule.prelude.children.toArray().map(lastOf), ...found });
    },
  });
  return { text: csstree.generate(tree), styled };
}

/** Cleans the declarations of a style attribute. */
export function cleanDeclarations(css: string): { text: string; references: StyledBy['references']; filters: number } {
  const tree = css.length > MOST_CSS ? null : parse(css, 'declarationList');
  if (!tree) return { text: '', references: [], filters: 0 };
  dropDeclarations(tree);
  csstree.walk(tree, (node, item, list) => void (node.type === 'Raw' && list?.remove(item)));
  return { text: csstree.generate(tree), ...referencesIn(tree) };
}

/** The ids that the value of an attribute refers to; null where it refers to anything else. */
export function referencesOfValue(value: string): string[] | null {
  if (!/[(\\]/.test(value)) return [];
  const tree = parse(value, 'value');
  if (!tree || isFetching(tree)) return null;
  const ids: string[] = [];
  csstree.walk(tree, (node) => void (node.type === 'Url' && ids.push(node.value.trim().slice(1))));
  return ids;
}

function parse(css: string, context: 'stylesheet' | 'declarationList' | 'value'): csstree.CssNode | null {
  try {
    return csstree.parse(css, { context, parseCustomProperty: true });
  } catch {
    return null;
  }
}

function dropDeclarations(tree: csstree.CssNode): void {
  csstree.walk(tree, {
    visit: 'Declaration',
    enter(node, item, list) {
      if (node.property.startsWith('--') || /^(behavior|-moz-binding)$/i.test(node.property) || isFetching(node.value)) list?.remove(item);
    },
  });
}

function isFetching(tree: csstree.CssNode): boolean {
  return (
    csstree.find(
      tree,
      (node) =>
        node.type === 'Raw' ||
        (node.type === 'Url' && !/^#[^\s"'()\\]+$/.test(node.value.trim())) ||
        (node.type === 'Function' && FETCHING.has(node.name.toLowerCase()))
    ) !== null
  );
}

function referencesIn(tree: csstree.CssNode): { references: { property: string; id: string }[]; filters: number } {
  const references: { property: string; id: string }[] = [];
  let filters = 0;
  csstree.walk(tree, {
    visit: 'Declaration',
    enter({ property, value }) {
      const name = property.toLowerCase();
      csstree.walk(value, (node) => {
        if (node.type === 'Url') references.push({ property: name, id: node.value.trim().slice(1) });
        if (node.type === 'Function' && /filter$/.test(name)) filters++;
      });
      if (/^(mix-blend-mode|isolation)$/.test(name)) filters++;
    },
  });
  return { references, filters };
}

function lastOf(selector: csstree.CssNode): Selector {
  const parts = selector.type === 'Selector' ? selector.children.toArray() : [];
  const compound = parts.slice(parts.findLastIndex((part) => part.type === 'Combinator') + 1);
  const tag = compound.find((part) => part.type === 'TypeSelector')?.name ?? null;
  return {
    tag: tag === '*' ? null : tag,
    id: compound.find((part) => part.type === 'IdSelector')?.name ?? null,
    classes: compound.flatMap((part) => (part.type === 'ClassSelector' ? [part.name] : [])),
  };
}
