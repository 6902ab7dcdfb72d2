const READING = new Set(['GET', 'HEAD', 'OPTIONS']);

/** Whether a request of a method only reads. */
export const isReading = (method: string): boolean => READING.has(method);
