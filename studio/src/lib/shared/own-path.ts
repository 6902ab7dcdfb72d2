/** A place in this application to go back to; the Workroom for anything that is none. */
export const ownPath = (path: string | null): string => (path !== null && /^\/(?![/\\])[^\s\\]{0,500}$/.test(path) ? path : '/');
