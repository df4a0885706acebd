// Everything that can fail, from nothing: types, lint with the layers, unit, reference, server and journey tests.
// Ends with one line "N passed, N failed" over all of them.
import { spawn } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { CLUSTER_NEEDS, ensureDebian, ensureModules, root } from './lib/ensure.mjs';
import { makeShopToCopy } from './lib/shop.mjs';

ensureDebian([...CLUSTER_NEEDS, 'chromium', 'ngspice', 'scipy']);
ensureModules();

let passed = 0;
let failed = 0;
/** what failed, said once more at the end: a long run's beginning is easily lost */
const failures = [];
const bin = (name) => join(root, 'node_modules/.bin', name);
/** Runs a command of its own process; what it says is printed in one piece when it ends. */
function step(name, cmd, args) {
  return new Promise((resolve) => {
    const child = spawn(cmd, args, { cwd: root, stdio: ['ignore', 'pipe', 'pipe'] });
    let said = '';
    child.stdout.on('data', (c) => (said += c));
    child.stderr.on('data', (c) => (said += c));
    child.on('close', (code) => {
      console.log(`\n== ${name}${code === 0 ? '' : `, ended with ${code}`}\n${said.trim()}`);
      if (code === 0) passed++;
      else {
        failed++;
        failures.push(`${name}: ended with ${code}`);
      }
      resolve(code === 0);
    });
  });
}

// none of these needs another
const [built] = await Promise.all([
  step('build', process.execPath, [join(root, 'scripts/build.mjs')]),
  step('types', bin('tsc'), ['--noEmit']),
  step('lint and layers', bin('eslint'), ['.', '--max-warnings', '0']),
]);

const firstLines = (text = '') => text.split('\n').slice(0, 3).join('\n    ').slice(0, 600);
const out = mkdtempSync(join(tmpdir(), 'kadro-results-'));
const suite = (project, env = {}) =>
  new Promise((resolve) => {
    console.log(`\n== ${project}`);
    const file = join(out, `${project}.json`);
    const args = ['run', '--project', project, '--reporter=default', '--reporter=json', `--outputFile.json=${file}`];
    spawn(bin('vitest'), args, { cwd: root, stdio: 'inherit', env: { ...process.env, ...env } }).on('close', (code) => {
      const result = existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')) : null;
      passed += result?.numPassedTests ?? 0;
      // a file that does not load counts no tests, but it fails all the same
      failed += Math.max(result?.numFailedTests ?? 0, code === 0 ? 0 : 1);
      for (const f of result?.testResults ?? []) {
        const bad = f.assertionResults.filter((t) => t.status === 'failed');
        for (const t of bad) failures.push(`${f.name.slice(root.length + 1)}: ${t.fullName}\n    ${firstLines(t.failureMessages[0])}`);
        if (f.status === 'failed' && !bad.length) failures.push(`${f.name.slice(root.length + 1)}: ${firstLines(f.message)}`);
      }
      if (!result) failures.push(`${project}: no result`);
      resolve();
    });
  });
// the demo is loaded once, while what needs no server is tested
const [copy] = await Promise.all([built ? makeShopToCopy() : null, suite('unit')]);
if (copy) {
  await suite('server', copy.env);
  await suite('journeys', copy.env);
  copy.drop();
}
rmSync(out, { recursive: true, force: true });
if (failures.length) console.log(`\nWhat failed:\n${failures.map((f) => `  ${f}`).join('\n')}`);
console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed ? 1 : 0);
