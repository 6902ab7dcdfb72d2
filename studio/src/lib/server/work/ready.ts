/** What a worker says when its program is loaded. */
export const READY = 'ready';
