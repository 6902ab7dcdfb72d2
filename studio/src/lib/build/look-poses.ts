import type { LookName, Still } from '@zany/core';

/** The looks in the order of the strip, with how each is brought about. */
export const looks = [
  { name: 'rest', label: 'Rest', shade: 0 },
  { name: 'hover', label: 'Hover', shade: 0.16 },
  { name: 'press', label: 'Press', shade: -0.14 },
  { name: 'focus', label: 'Focus', shade: 0.08 },
  { name: 'selected', label: 'Selected', shade: -0.2 },
  { name: 'selectedHover', label: 'Selected, hovered', shade: -0.1 },
  { name: 'disabled', label: 'Off', shade: 0 },
] as const satisfies readonly { name: LookName | 'rest'; label: string; shade: number }[];

export const labelOfLook = (name: LookName | 'rest'): string => looks.find((look) => look.name === name)!.label;

/** `a hover look`, `an off look`. */
export function aLook(name: LookName | 'rest'): string {
  const label = labelOfLook(name).toLowerCase();
  return `${/^[aeiou]/.test(label) ? 'an' : 'a'} ${label} look`;
}

/** How a scene has to be looked at so that layers are in a look; only one of them can have the focus. */
export function poseOfLook(look: LookName | 'rest' | undefined, layers: readonly string[]): Still {
  if (look === undefined || look === 'rest' || layers.length === 0) return {};
  const isHovered = look === 'hover' || look === 'press' || look === 'selectedHover';
  return {
    over: isHovered ? layers : [],
    pressed: look === 'press',
    focus: look === 'focus' ? layers[0]! : null,
    selected: look === 'selected' || look === 'selectedHover' ? layers : [],
    disabled: look === 'disabled' ? layers : [],
  };
}
