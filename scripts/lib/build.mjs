import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { hashOf, inRoot } from './paths.mjs';
import { say, Stop } from './say.mjs';

const sources = [
  'src',
  'standins',
  'demo',
  'public',
  'astro.config.mjs',
  'tsconfig.json',
  'package-lock.json',
  'scripts/lib/build.mjs',
].map((path) => inRoot(path));
const stamp = inRoot('dist', '.avrix-sources');

const common = { bundle: true, logLevel: 'warning', absWorkingDir: inRoot() };

/** What runs in Node: bundled, with the packages left outside. */
const inNode = {
  'app/main': 'src/server/main.ts',
  'app/worker': 'src/server/worker.ts',
  'app/password': 'src/server/password.ts',
  'app/pool': 'src/server/pool/main.ts',
  'standins/main': 'standins/main.ts',
  'demo/main': 'demo/main.ts',
};

/** Builds when a source changed since the last build. */
export async function needBuild() {
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === hashOf(sources)) return;
  say('Building …');
  await build();
}

/** Builds everything into dist/: Astro's server and client, the application, the snippet, the stand-ins, the demo. */
export async function build() {
  rmSync(inRoot('dist'), { recursive: true, force: true });
  const wanted = hashOf(sources);
  const astro = spawnSync('npx', ['--no-install', 'astro', 'build', '--silent'], {
    cwd: inRoot(),
    stdio: ['ignore', 'inherit', 'inherit'],
    env: { ...process.env, ASTRO_TELEMETRY_DISABLED: '1', NODE_ENV: 'production' },
  });
  if (astro.status !== 0) throw new Stop('The build failed; the lines above say where.');
  await buildPrograms();
  writeFileSync(stamp, wanted);
}

/** Bundles what runs outside Astro. */
export async function buildPrograms() {
  const { build: bundle } = await import('esbuild');
  await bundle({
    ...common,
    entryPoints: inNode,
    outdir: 'dist',
    platform: 'node',
    target: 'node20',
    format: 'esm',
    packages: 'external',
    sourcemap: true,
  });
  await buildSnippet(bundle);
}

/**
 * The snippet's engine, and its parts, each served only with releases that need it; as small as they come, for every
 * page of a website loads them. Their metafile stands beside them, for the test of what they contain.
 */
async function buildSnippet(bundle) {
  const { minify } = await import('terser');
  const parts = readdirSync(inRoot('src/snippet/parts')).filter((name) => !name.includes('.test.'));
  const entries = [
    { name: 'engine', contents: `import './main.ts';` },
    { name: 'loader', contents: `import './loader.ts';` },
    { name: 'trial', contents: `import './trial.ts';` },
    { name: 'point', contents: `import '../overlay/point.ts';`, isShownOnly: true },
    { name: 'see', contents: `import { part } from '../overlay/see.ts'; AVRIX_PARTS.push(part);`, isShownOnly: true },
    ...parts.map((file) => ({
      name: file.replace(/\.ts$/, ''),
      contents: `import { part } from './parts/${file}'; AVRIX_PARTS.push(part);`,
    })),
  ];
  mkdirSync(inRoot('dist/snippet'), { recursive: true });
  const inputs = {};
  for (const { name, contents, isShownOnly = false } of entries) {
    const { outputFiles, metafile } = await bundle({
      ...common,
      platform: 'browser',
      target: 'es2021',
      format: 'iife',
      minify: true,
      metafile: true,
      write: false,
      stdin: { contents, resolveDir: inRoot('src/snippet'), loader: 'ts' },
    });
    const { code } = await minify(outputFiles[0].text, { ecma: 2021, compress: { passes: 3, unsafe_arrows: true } });
    writeFileSync(inRoot(`dist/snippet/${name}.js`), code);
    // What is never served to visitors may hold words.
    if (!isShownOnly) Object.assign(inputs, metafile.inputs);
  }
  delete inputs['<stdin>'];
  writeFileSync(inRoot('dist/snippet/meta.json'), JSON.stringify({ inputs }));
}
