/** In an exported page people do things by a pointer and by keys; by name only what has the focus is clicked. */
export const takeDeed = (): void => undefined;
