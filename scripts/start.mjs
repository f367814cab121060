import { resolve } from 'node:path';
import { needBuild } from './lib/build.mjs';
import { needModules } from './lib/modules.mjs';
import { database, needNode, needPackages } from './lib/packages.mjs';
import { inRoot } from './lib/paths.mjs';
import { main, say } from './lib/say.mjs';
import { makeEnds } from './lib/program.mjs';
import { startWorld } from './lib/world.mjs';

await main(async () => {
  needNode();
  const env = process.env;
  needPackages(env.AVRIX_DATABASE_URL ? {} : database);
  needModules();
  await needBuild();

  const ends = makeEnds();
  const stopped = new Promise((resolve) => {
    for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => resolve(0));
  });
  const starting = startWorld(
    {
      dataDir: env.AVRIX_DATA ? resolve(env.AVRIX_DATA) : inRoot('.data', 'avrix'),
      port: Number(env.AVRIX_PORT || 4300),
      standinsPort: Number(env.AVRIX_STANDINS_PORT || 4310),
      demo: env.AVRIX_DEMO || null,
      outside: env.AVRIX_STANDINS === 'yes',
      lastDay: new Date().toISOString().slice(0, 10),
    },
    ends,
  );
  try {
    const world = await Promise.race([starting, stopped]);
    if (!world) return 0;
    printPlaces(world.places, world.hasStandins);
    printOwner(world.owner);
    return await Promise.race([stopped, world.exited]);
  } finally {
    starting.catch(() => undefined);
    await ends.all();
  }
});

function printPlaces(places, hasStandins) {
  say(`\nAvrix is at      ${places.avrix}`);
  if (hasStandins) {
    say(`Larkmoor         ${places.larkmoor}   the website`);
    say(`Quillsearch      ${places.quillsearch}   search ads; its account page is /account`);
    say(`Oakledger        ${places.oakledger}   the CRM`);
    say(`Larkmoor Fleet   ${places['larkmoor-fleet']}   the second website, with the offers`);
    say(`Bellhour         ${places.bellhour}   an outside calendar`);
    say(`Wrenwick         ${places.wrenwick}   a partner network; what it counted is on /account`);
    say(`Tessaloop        ${places.tessaloop}   a social feed with posts; what it was told is on /account`);
    say(`Meterhall        ${places.meterhall}   an analytics intake; what it counted is on /account`);
    say(`Plain Ads        ${places['plain-ads']}   an ad network to be described by hand`);
    say(`Plain CRM        ${places['plain-crm']}   a CRM to be described by hand`);
  }
  say('Ctrl-C ends it all.\n');
}

/** The owner's account, where this start made it: last, so that it is still in sight. */
function printOwner(owner) {
  if (!owner) return;
  say('Your owner account, shown this once:');
  say(`  email          ${owner.mail}`);
  say(`  password       ${owner.password}\n`);
}
