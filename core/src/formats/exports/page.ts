import { htmlPage } from '../html.ts';
import { defineExport } from './define.ts';

export const page = defineExport({
  kind: 'html',
  group: 'run',
  label: 'One HTML file',
  act: 'Save the page',
  ending: '.html',
  mediaType: 'text/html; charset=utf-8',
  meaning: 'runs in any browser, from a disk or a server, with no network',
  holdsPictures: true,
  write: htmlPage,
});
