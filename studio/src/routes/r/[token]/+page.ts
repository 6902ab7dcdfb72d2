/** What runs lives in the browser; of a link nothing is drawn on the server. */
export const ssr = false;
