// Builds what is stale: the core for the command line, the server, and the web application.
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { root } from './lib/ensure.mjs';

function stampOf(paths) {
  const hash = createHash('sha256');
  const walk = (p) => {
    if (!existsSync(p)) return;
    if (statSync(p).isDirectory()) for (const f of readdirSync(p).sort()) walk(join(p, f));
    else if (!/\.test\.tsx?$/.test(p)) hash.update(p).update(readFileSync(p));
  };
  paths.forEach((p) => walk(join(root, p)));
  return hash.digest('hex');
}

const shared = ['model', 'core', 'package-lock.json', 'scripts/build.mjs'];

async function stale(name, paths, build) {
  const file = join(root, 'dist', `${name}.stamp`);
  const stamp = stampOf([...shared, ...paths]);
  if (existsSync(file) && readFileSync(file, 'utf8') === stamp) return;
  console.log(`Building ${name} ...`);
  mkdirSync(join(root, 'dist'), { recursive: true });
  rmSync(file, { force: true });
  await build();
  writeFileSync(file, stamp);
}

export async function build() {
  const esbuild = await import('esbuild');
  const node = { bundle: true, platform: 'node', target: 'node20', format: 'esm', absWorkingDir: root, logLevel: 'error', sourcemap: true };
  await stale('calc', [], () =>
    // packages as modules: one written for both would be left asking for its parts by path
    esbuild.build({ ...node, entryPoints: ['core/calc/door.ts'], outfile: 'dist/calc.mjs', mainFields: ['module', 'main'] }),
  );
  await stale('server', ['server'], () =>
    esbuild.build({
      ...node,
      entryPoints: { server: 'server/main.ts', worker: 'server/work/worker.ts', 'calc-worker': 'server/work/calc-worker.ts' },
      outdir: 'dist',
      outExtension: { '.js': '.mjs' },
      packages: 'external',
    }),
  );
  await stale('web', ['web', 'index.html', 'vite.config.ts'], async () => {
    const vite = await import('vite');
    await vite.build({ root, configFile: join(root, 'vite.config.ts'), logLevel: 'error' });
  });
}

if (import.meta.url === pathToFileURL(process.argv[1]).href) await build();
