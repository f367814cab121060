import { main } from './lib/say.mjs';
import { needModules } from './lib/modules.mjs';

await main(async () => {
  needModules();
  const { build } = await import('./lib/build.mjs');
  await build();
});
