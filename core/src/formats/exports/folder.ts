import { strToU8, zipSync } from 'fflate';
import { pageFiles } from '../html.ts';
import { EPOCH } from '../package.ts';
import { defineExport } from './define.ts';

export const folder = defineExport({
  kind: 'folder',
  group: 'run',
  label: 'A page as a folder',
  act: 'Save the folder',
  ending: '.web.zip',
  mediaType: 'application/zip',
  meaning: 'the page, its script, style, pictures and fonts as files of their own, to be put on a web server',
  holdsPictures: true,
  write: (piece, assets, parts) => zipped(pageFiles(piece, assets, parts)),
});

/** Files by name as a zip; the same files always give the same bytes. */
export const zipped = (files: Readonly<Record<string, string | Uint8Array>>): Uint8Array =>
  zipSync(
    Object.fromEntries(Object.entries(files).map(([name, file]) => [name, [typeof file === 'string' ? strToU8(file) : file, { mtime: EPOCH }]]))
  );
