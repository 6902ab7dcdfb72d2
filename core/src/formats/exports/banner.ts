import { bannerPage } from '../html.ts';
import { defineExport } from './define.ts';

export const banner = defineExport({
  kind: 'banner',
  group: 'run',
  label: 'One HTML file for a banner place',
  act: 'Save the banner',
  ending: '.banner.html',
  mediaType: 'text/html; charset=utf-8',
  meaning: 'the same page; what it opens on the web is the address that it is given as clickTag, and its size stands in ad.size',
  holdsPictures: true,
  weighed: true,
  write: bannerPage,
});
