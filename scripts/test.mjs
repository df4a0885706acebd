// Everything that can fail, from nothing: types, lint with the layers, unit, reference, server and journey tests.
// Ends with one line "N passed, N failed" over all of them.
import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ensureDebian, ensureModules, root } from './lib/ensure.mjs';

ensureDebian(['mariadbd', 'chromium', 'ngspice', 'scipy']);
ensureModules();

let passed = 0;
let failed = 0;
const bin = (name) => join(root, 'node_modules/.bin', name);
function step(name, cmd, args) {
  console.log(`\n== ${name}`);
  const ok = spawnSync(cmd, args, { cwd: root, stdio: 'inherit' }).status === 0;
  if (ok) passed++;
  else failed++;
  return ok;
}

step('types', bin('tsc'), ['--noEmit']);
step('lint and layers', bin('eslint'), ['.', '--max-warnings', '0']);
const built = step('build', process.execPath, [join(root, 'scripts/build.mjs')]);

const out = mkdtempSync(join(tmpdir(), 'kadro-results-'));
for (const project of built ? ['unit', 'server', 'journeys'] : ['unit']) {
  console.log(`\n== ${project}`);
  const file = join(out, `${project}.json`);
  const r = spawnSync(bin('vitest'), ['run', '--project', project, '--reporter=default', '--reporter=json', `--outputFile.json=${file}`], {
    cwd: root,
    stdio: 'inherit',
  });
  const result = existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')) : null;
  passed += result?.numPassedTests ?? 0;
  // a file that does not load counts no tests, but it fails all the same
  failed += Math.max(result?.numFailedTests ?? 0, r.status === 0 ? 0 : 1);
}
rmSync(out, { recursive: true, force: true });
console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed ? 1 : 0);
