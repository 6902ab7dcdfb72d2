/** When something was or will be, as it is said everywhere; from the text of a moment (RFC 3339). */

/** `3 December` */
export const dayOf = (text: string): string => new Date(text).toLocaleDateString('en-GB', { day: 'numeric', month: 'long' });

/** `3 Dec, 10:40` */
export const momentOf = (text: string): string =>
  new Date(text).toLocaleString('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' });

/** `10:40` */
export const clockOf = (text: string): string => new Date(text).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' });
