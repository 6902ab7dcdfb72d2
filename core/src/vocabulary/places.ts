/** Places that a step can lead to without naming a frame. */
export const PLACES = ['next', 'previous', 'first', 'last', 'back', 'start'] as const;

export type Place = (typeof PLACES)[number];
