import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { besideApplication } from './lib/beside.mjs';
import { needBuild } from './lib/build.mjs';
import { needModules } from './lib/modules.mjs';
import { needNode } from './lib/packages.mjs';
import { makeEnds, startProgram } from './lib/program.mjs';
import { main, say, Stop } from './lib/say.mjs';

/** Gives somebody who forgot it a new password, beside a running `npm start`: `npm run password -- anna@bakery.example`. */
await main(async () => {
  const mail = process.argv[2];
  if (!mail) throw new Stop('Whose? Write the email: npm run password -- anna@bakery.example');
  needNode();
  needModules();
  await needBuild();
  const dataDir = mkdtempSync(join(tmpdir(), 'avrix-password-'));
  const ends = makeEnds();
  try {
    const { said } = await startProgram(
      'app/password.js',
      { AVRIX_DATA: dataDir, AVRIX_PASSWORD_OF: mail, ...besideApplication() },
      ends,
    );
    if (!said.password) throw new Stop(`Nobody signs in as ${mail}.`);
    say(`${said.name} signs in with this password from now on, shown this once:\n  ${said.password}`);
    say('It can be changed on the page “You”; every other session has ended.');
    return 0;
  } finally {
    await ends.all();
    rmSync(dataDir, { recursive: true, force: true });
  }
});
