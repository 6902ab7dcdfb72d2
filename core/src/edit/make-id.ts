/** Gives an id that nothing has. */
export type MakeId = () => string;
