import type { Layer, Letters, LookName, Style } from '@zany/core';

/** What a layer's properties are in a look: its own at rest, else with the look's on top. */
export function valueIn(layer: Layer, look: LookName | 'rest'): { style: Style; letters: Letters; text: string | undefined } {
  const extra = look === 'rest' ? undefined : layer.looks?.[look];
  return { style: { ...layer.style, ...extra?.style }, letters: { ...layer.letters, ...extra?.letters }, text: extra?.text ?? layer.text };
}
