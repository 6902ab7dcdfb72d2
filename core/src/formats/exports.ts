/** What a piece can be handed over as: one table for the desk, the command line and the docs. */
export const exportKinds = {
  html: {
    label: 'One HTML file',
    act: 'Save the page',
    ending: '.html',
    mediaType: 'text/html; charset=utf-8',
    meaning: 'runs in any browser, from a disk or a server, with no network',
  },
  package: {
    label: 'Package',
    act: 'Save the package',
    ending: '.zanythread.zip',
    mediaType: 'application/zip',
    meaning: 'the piece and its pictures, to bring in again or keep',
  },
  scxml: {
    label: 'State chart',
    act: 'Save the chart',
    ending: '.scxml',
    mediaType: 'application/scxml+xml',
    meaning: 'the flow as State Chart XML (W3C): frames and states, cues, conditions and timers, for programs that read it',
  },
} as const;

export type ExportKind = keyof typeof exportKinds;

/** A file name made of the piece's name. */
export const exportName = (name: string, kind: ExportKind): string =>
  `${
    name
      .trim()
      .toLowerCase()
      .replace(/[^\p{L}\p{N}]+/gu, '-')
      .replace(/^-+|-+$/g, '') || 'piece'
  }${exportKinds[kind].ending}`;
