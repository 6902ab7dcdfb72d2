/** `npm run build`: builds what has changed. */
import { build, checkNode, installPackages, packAssets } from './lib/prepare.mjs';
import { main } from './lib/say.mjs';

await main(async () => {
  checkNode();
  await installPackages();
  await build();
  await packAssets();
});
