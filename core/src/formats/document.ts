import { escaped } from './escaped.ts';

/** An HTML document that stands by itself: its title, its style sheet, and what is in its `main`, each on lines of their own. */
export const standingDocument = (title: string, css: string, main: string): string => `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width">
<title>${escaped(title)}</title>
<style>
${css}
</style>
</head>
<body>
<main>
<h1>${escaped(title)}</h1>
${main}
</main>
</body>
</html>
`;
