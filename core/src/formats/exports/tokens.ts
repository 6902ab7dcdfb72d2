import { rgbOf } from '../../motion/color.ts';
import { inOrder } from '../../edit/commands/named.ts';
import { USUAL_LETTERS } from '../../piece/letters.ts';
import type { Head } from '../../piece/schema.ts';
import { defineExport } from './define.ts';

/**
 * Design tokens (Design Tokens Community Group, format module): swatches as colours, type styles as typography, easings as cubic
 * Béziers. What a token cannot say is left out by name.
 */
export const tokens = defineExport({
  kind: 'tokens',
  group: 'build',
  label: 'Design tokens',
  act: 'Save the tokens',
  ending: '.tokens.json',
  mediaType: 'application/design-tokens+json',
  meaning: 'swatches, type styles and easings as the Design Tokens Community Group writes them',
  write: ({ head }) => `${JSON.stringify(tokensOf(head), null, 2)}\n`,
  omits: ({ head }) =>
    inOrder(head.easings)
      .filter(({ easing }) => bezierOf(easing) === null)
      .map(({ name, easing }) => `the easing ${name}: ${easing} is no cubic Bézier`),
});

type Token = Readonly<Record<string, unknown>>;

export function tokensOf(head: Head): Token {
  const colors = named(inOrder(head.swatches), ({ color }) => ({ $value: colorOf(color) }));
  const letters = named(inOrder(head.typeStyles), ({ letters: { family, size, weight, leading } }) => ({
    $value: {
      fontFamily: family ?? 'Atkinson Hyperlegible Next',
      fontSize: { value: size ?? USUAL_LETTERS.size, unit: 'px' },
      fontWeight: weight ?? USUAL_LETTERS.weight,
      letterSpacing: { value: 0, unit: 'px' },
      lineHeight: leading ?? USUAL_LETTERS.leading,
    },
  }));
  const easings = named(
    inOrder(head.easings).filter(({ easing }) => bezierOf(easing) !== null),
    ({ easing }) => ({ $value: bezierOf(easing) })
  );
  const group = (name: string, type: string, all: Token) => (Object.keys(all).length ? { [name]: { $type: type, ...all } } : {});
  return {
    $description: `From ${head.name}`,
    ...group('colour', 'color', colors),
    ...group('type', 'typography', letters),
    ...group('easing', 'cubicBezier', easings),
  };
}

/** By their names, each once: a name must not begin with a dollar, nor hold braces or dots. */
function named<T extends { readonly name: string }>(all: readonly T[], token: (one: T) => Token): Record<string, Token> {
  const found: Record<string, Token> = {};
  for (const one of all) {
    const plain = one.name.replace(/[{}.]/g, ' ').replace(/^\$+/, '').replace(/\s+/g, ' ').trim() || 'token';
    let name = plain;
    for (let i = 2; Object.hasOwn(found, name); i++) name = `${plain} ${i}`;
    found[name] = token(one);
  }
  return found;
}

function colorOf(color: string): Token {
  const { rgb, alpha } = rgbOf(color);
  return {
    colorSpace: 'srgb',
    components: rgb.map((part) => Math.round(part * 10_000) / 10_000),
    alpha: Math.round(alpha * 1000) / 1000,
    hex: color.slice(0, 7).toLowerCase(),
  };
}

/** The four numbers of an easing that is a cubic Bézier; null for any other. */
export function bezierOf(easing: string): readonly number[] | null {
  const named = {
    linear: [0, 0, 1, 1],
    ease: [0.25, 0.1, 0.25, 1],
    'ease-in': [0.42, 0, 1, 1],
    'ease-out': [0, 0, 0.58, 1],
    'ease-in-out': [0.42, 0, 0.58, 1],
  }[easing.trim()];
  const [, written] = /^cubic-bezier\(([^)]*)\)$/.exec(easing.trim()) ?? [];
  const numbers = named ?? written?.split(',').map(Number);
  return numbers?.length === 4 && numbers.every(Number.isFinite) ? numbers : null;
}
