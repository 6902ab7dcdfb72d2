/** The desks live in the browser: nothing of them is drawn on the server. */
export const ssr = false;
