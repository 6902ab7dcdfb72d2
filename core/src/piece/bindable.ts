/** Properties of a layer that can always follow an expression. */
export const BINDABLE = ['shown', 'enabled', 'selected', 'state', 'x', 'y', 'width', 'height', 'rotation', 'scale', 'opacity'] as const;

export type Bindable = (typeof BINDABLE)[number];
