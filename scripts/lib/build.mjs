import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
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

/** What runs in Node: bundled, with the packages left outside. */
const inNode = {
  'app/main': 'src/server/main.ts',
  'app/worker': 'src/server/worker.ts',
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

/** Bundles what runs outside Astro. The snippet's metafile stands beside it, for the test of what it contains. */
export async function buildPrograms() {
  const { build: bundle } = await import('esbuild');
  const common = { bundle: true, logLevel: 'warning', absWorkingDir: inRoot() };
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
  const inPages = {
    ...{ ...common, outdir: 'dist', platform: 'browser', target: 'es2021', format: 'iife', minify: true },
    metafile: true,
  };
  const snippet = await bundle({ ...inPages, entryPoints: { 'snippet/engine': 'src/snippet/main.ts' } });
  // Served only to pages that lead to places outside.
  const elsewhere = await bundle({
    ...inPages,
    entryPoints: { 'snippet/elsewhere': 'src/snippet/elsewhere.ts' },
    globalName: 'AVRIX_ELSEWHERE',
  });
  mkdirSync(inRoot('dist/snippet'), { recursive: true });
  writeFileSync(
    inRoot('dist/snippet/meta.json'),
    JSON.stringify({ inputs: { ...snippet.metafile.inputs, ...elsewhere.metafile.inputs } }),
  );
}
