import type { ExpressionFault } from './ast.ts';
import { displayExpression, type ExpressionScope } from './names.ts';
import { storeExpression } from './store.ts';
import { escapeText, textParts } from './text.ts';

/** A text as it is kept, with what is wrong with the expressions in it; those stay as they were written. */
export interface StoredText {
  readonly text: string;
  readonly faults: readonly { readonly written: string; readonly fault: ExpressionFault }[];
}

/** What people write, `{Seats left} seats`, in its stored form, `{‹id›} seats`. */
export function storeText(written: string, scope: ExpressionScope): StoredText {
  const faults: { written: string; fault: ExpressionFault }[] = [];
  const text = textParts(written)
    .map((part) => {
      if (part.expression === undefined) return escapeText(part.text!);
      const stored = storeExpression(part.expression, scope);
      if (!stored.ok) faults.push({ written: part.expression, fault: stored.error });
      return `{${stored.ok ? stored.value : part.expression}}`;
    })
    .join('');
  return { text, faults };
}

/** A stored text as people write it: `storeText` gives the stored one back. */
export const displayText = (stored: string, scope: ExpressionScope): string =>
  textParts(stored)
    .map((part) => (part.expression === undefined ? escapeText(part.text!) : `{${displayExpression(part.expression, scope).text}}`))
    .join('');
