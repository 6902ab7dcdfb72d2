import { writePackage } from '../package.ts';
import { defineExport } from './define.ts';

export const zipped = defineExport({
  kind: 'package',
  group: 'run',
  label: 'Package',
  act: 'Save the package',
  ending: '.zanythread.zip',
  mediaType: 'application/zip',
  meaning: 'the piece and its pictures, to bring in again or keep',
  holdsPictures: true,
  write: writePackage,
});
