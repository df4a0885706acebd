#!/usr/bin/env node
// The calculation door. Reads the built core only: no server, no database.
import { readFileSync } from 'node:fs';
import { createInterface } from 'node:readline';

let core;
try {
  core = await import(new URL('../dist/calc.mjs', import.meta.url));
} catch {
  console.error('The core is not built yet: run "npm run build" (or "npm start") once.');
  process.exit(1);
}
const { CALCULATIONS, findCalculation, runCalculation, jsonSchema } = core;

const problem = (e) =>
  e.name === 'ImpossibleInput'
    ? { error: { type: 'impossible-input', message: e.message, ...(e.path ? { path: e.path } : {}) } }
    : { error: { type: 'internal', message: String(e.message ?? e) } };
function answer(name, text) {
  let input;
  try {
    input = JSON.parse(text);
  } catch {
    return { error: { type: 'not-json', message: 'the input is not JSON' } };
  }
  try {
    return runCalculation(name, input);
  } catch (e) {
    return problem(e);
  }
}
const usage = 'usage: kadro.mjs calc NAME < input.json | calc --list | calc --schema NAME | calc --lines NAME < lines.jsonl';
const [door, first, second] = process.argv.slice(2);
const known = (name) => {
  if (findCalculation(name)) return true;
  console.log(
    JSON.stringify({ error: { type: 'unknown-calculation', message: `there is no calculation “${name ?? ''}”: see calc --list` } }),
  );
  process.exitCode = 2;
  return false;
};

if (door !== 'calc' || !first) {
  console.error(usage);
  process.exitCode = 1;
} else if (first === '--list') {
  for (const c of CALCULATIONS) console.log(`${c.name.padEnd(22)} ${c.description}`);
} else if (first === '--schema') {
  if (known(second)) console.log(JSON.stringify(jsonSchema(findCalculation(second)), null, 2));
} else if (first === '--lines') {
  if (known(second))
    for await (const line of createInterface({ input: process.stdin }))
      if (line.trim()) process.stdout.write(JSON.stringify(answer(second, line)) + '\n');
} else if (known(first)) {
  const result = answer(first, readFileSync(0, 'utf8'));
  console.log(JSON.stringify(result));
  if (result.error) process.exitCode = 2;
}
