// Hostile requests, many of them, over every route, command and calculation that the server names itself; seeded.
import { Worker } from 'node:worker_threads';

/** A small seeded generator (mulberry32), so that a run can be repeated. */
export function random(seed) {
  let a = seed >>> 0;
  return () => {
    a = (a + 0x6d2b79f5) | 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

const deep = (n, leaf = 1) => {
  let v = leaf;
  for (let i = 0; i < n; i++) v = i % 2 ? [v] : { a: v };
  return v;
};
/** Values that nobody means. */
const ODD = [
  null,
  true,
  false,
  0,
  -0,
  -1,
  1.5,
  1e308,
  -1e308,
  5e-324,
  2 ** 53,
  2147483648,
  '',
  ' ',
  '0',
  'null',
  '__proto__',
  'constructor',
  '\u0000',
  '\ud800',
  '＝1+1',
  '=1+1',
  "'; DROP TABLE orders; --",
  '<script>alert(1)</script>',
  '../../../etc/passwd',
  'x'.repeat(5000),
  '𝕏'.repeat(400),
  '9999-12-31T23:59:59+14:00',
  '0000-01-01T00:00:00-14:00',
  '2026-02-30T00:00:00Z',
  [],
  {},
  [[]],
  deep(40),
  deep(3000),
  Array(2000).fill(0),
  Object.fromEntries(Array.from({ length: 3000 }, (_, i) => [`k${i}`, i])),
];

/** One value of a JSON Schema, mostly as it should be, now and then not at all. */
function made(schema, rnd, doc, depth = 0) {
  if (rnd() < 0.08) return ODD[Math.floor(rnd() * ODD.length)];
  if (!schema || depth > 6) return ODD[Math.floor(rnd() * ODD.length)];
  if (schema.$ref) return made(doc, rnd, doc, depth + 1);
  const some = schema.anyOf ?? schema.oneOf ?? schema.allOf;
  if (some) return made(some[Math.floor(rnd() * some.length)], rnd, doc, depth + 1);
  if (schema.const !== undefined) return schema.const;
  if (schema.enum) return schema.enum[Math.floor(rnd() * schema.enum.length)];
  switch (schema.type) {
    case 'object': {
      const out = {};
      for (const [k, s] of Object.entries(schema.properties ?? {}))
        if (schema.required?.includes(k) ? rnd() < 0.97 : rnd() < 0.5) out[k] = made(s, rnd, doc, depth + 1);
      if (rnd() < 0.03) out[`more${Math.floor(rnd() * 9)}`] = 1;
      if (schema.additionalProperties && typeof schema.additionalProperties === 'object')
        for (let i = 0; i < rnd() * 4; i++) out[`k${i}`] = made(schema.additionalProperties, rnd, doc, depth + 1);
      return out;
    }
    case 'array': {
      const n = rnd() < 0.05 ? 400 : Math.floor(rnd() * 5);
      const item = Array.isArray(schema.prefixItems) ? null : schema.items;
      if (!item && schema.prefixItems) return schema.prefixItems.map((s) => made(s, rnd, doc, depth + 1));
      return Array.from({ length: n }, () => made(item, rnd, doc, depth + 1));
    }
    case 'integer':
    case 'number': {
      const lo = schema.minimum ?? schema.exclusiveMinimum ?? -10;
      const hi = schema.maximum ?? schema.exclusiveMaximum ?? 1000;
      const v = rnd() < 0.1 ? [lo - 1, hi + 1, lo, hi][Math.floor(rnd() * 4)] : lo + rnd() * (Math.min(hi, lo + 1e6) - lo);
      return schema.type === 'integer' ? Math.round(v) : v;
    }
    case 'boolean':
      return rnd() < 0.5;
    case 'null':
      return null;
    case 'string':
      return ['a', 'road-kit', 'drover-4', 'safe/rest', 'rest', '2026-11-27T08:00:00Z', 'V', 'x y', 'road-kit/horn', 'b'.repeat(60)][
        Math.floor(rnd() * 10)
      ];
    default:
      return ODD[Math.floor(rnd() * ODD.length)];
  }
}

const HEADERS = [
  {},
  { Origin: 'null' },
  { Origin: 'http://evil.example' },
  { Origin: '::::' },
  { 'If-Match': '"1"' },
  { 'If-Match': 'W/"x"' },
  { 'If-Match': `"${'9'.repeat(40)}"` },
  { 'Idempotency-Key': 'short' },
  { 'Idempotency-Key': 'hostile-key-0001', 'If-Match': '"1"' },
  { 'Done-At': 'yesterday', 'If-Match': '"1"' },
  { 'Done-At': '9999-12-31T00:00:00Z', 'If-Match': '"1"' },
  { Author: 'somebody', 'If-Match': '"1"' },
  { Cookie: 'kadro=' + 'a'.repeat(43) },
  { 'Content-Type': 'application/json; charset=utf-7' },
  { 'Content-Type': 'text/plain' },
  { 'Content-Type': 'image/png' },
  { 'Content-Encoding': 'gzip' },
];

/** Inputs that once held up the server, or brought it down. */
function known(order) {
  const wires = (n, d = 2.9) => ({ wireDiametersMm: Array(n).fill(d) });
  const tasks = (n, shut, panels = 12) => ({
    tasks: Array.from({ length: n }, (_, i) => ({
      id: `t${i}`,
      minutes: 1,
      zone: `z${i % 6}`,
      open: i % 3 ? [`p${i % panels}`] : [],
      shut: i % 3 === 0 && i < shut * 3 ? [`p${(i + 1) % panels}`] : [],
      power: ['off', 'on', 'any'][i % 3],
      after: i > 5 ? [`t${i - 5}`] : [],
    })),
    panels: Array.from({ length: panels }, (_, i) => ({ id: `p${i}`, zone: `z${i % 6}`, offMinutes: 1, onMinutes: 1, after: [] })),
    power: { zone: 'z0', offMinutes: 1, onMinutes: 1 },
    moveMinutes: 1,
  });
  const chain = (n, more) => ({
    ground: 'g',
    elements: [
      { id: 'b', kind: 'V', from: 'n0', to: 'g', volts: 12.6, ohms: 0.01 },
      ...Array.from({ length: n }, (_, i) => ({ id: `e${i}`, from: `n${i}`, to: `n${i + 1}`, ...more(i) })),
      { id: 'r', kind: 'R', from: `n${n}`, to: 'g', ohms: 5 },
    ],
  });
  const lengths = (n, kinds) =>
    Array.from({ length: n }, (_, i) => ({ id: `l${i}`, awg: 16, colour: `C${i % kinds}`, lengthM: 1 + ((i * 7) % 13) / 5 }));
  const day = (n, hours) => ({
    batteries: [{ capacityAh: 30, chemistry: 'agm', socStart: 0.9 }],
    source: {
      curve: [
        [900, 12],
        [1200, 24],
      ],
      regulatedV: 14.2,
    },
    loads: Array.from({ length: 100 }, (_, i) => ({ id: `l${i}`, watts: 10 })),
    phases: Array.from({ length: n }, (_, i) => ({ name: `p${i}`, minutes: hours * 60, rpm: i % 2 ? 1200 : 0, on: ['l0', 'l1'] })),
  });
  const calc = (name, body) => ['POST', `/api/calc/${name}`, body];
  const record = (body, headers = {}) => ['POST', `/api/orders/${order}/events`, body, { 'If-Match': '"1"', ...headers }];
  return [
    calc('plan.sequence', tasks(400, 99, 28)),
    calc('plan.sequence', tasks(100, 33)),
    calc('harness.bundle', wires(400)),
    calc('harness.bundle', { wireDiametersMm: [2.9, 2900] }),
    calc('harness.bundle', { wireDiametersMm: Array.from({ length: 400 }, (_, i) => 0.3 + i / 5) }),
    calc(
      'network.solve',
      chain(1000, () => ({ kind: 'diode', volts: 0.6 })),
    ),
    calc(
      'network.solve',
      chain(1500, () => ({ kind: 'R', ohms: 1e-15 })),
    ),
    calc(
      'network.solve',
      chain(600, (i) => ({ kind: i % 2 ? 'switch' : 'R', closed: true, ohms: 1 })),
    ),
    calc('harness.cut', { stock: lengths(200, 20), cuts: lengths(500, 20) }),
    calc('energy.day', day(60, 2000)),
    calc('winch.layers', { ratedN: 1e300, drumDiameterMm: 1e-300, drumWidthMm: 1e9, ropeDiameterMm: 1e-9, ropeLengthM: 1e9 }),
    calc('flash.rate', { beatsS: Array.from({ length: 20000 }, (_, i) => i) }),
    calc('battery.hours', { capacityAh: 1e308, exponent: 2, amps: 1e-308 }),
    record({ type: 'arrive.changed', patch: { promisedAt: '9999-12-31T23:59:59+14:00' } }),
    record({ type: 'arrive.changed', patch: { promisedAt: '0000-01-01T00:00:00-14:00' } }),
    record({ type: 'calc.kept', name: 'x', input: deep(6000), answer: 'y' }),
    record({ type: 'calc.kept', name: 'x', input: { a: 'b'.repeat(190_000) }, answer: 'y' }),
    record(Object.fromEntries([['type', 'finding.added'], ['text', 'x'], ...Array.from({ length: 8000 }, (_, i) => [`k${i}`, i])])),
    record({ type: 'finding.added', text: 'x' }, { Origin: 'null' }),
    ['PATCH', '/api/settings', {}],
    ['PATCH', '/api/settings', { changes: Array.from({ length: 60 }, (_, i) => ({ field: `f${i}`, value: deep(20), version: 0 })) }],
    ['POST', '/api/sheets', `{"kadro":"kit","format":1,"sheet":${'['.repeat(20000)}${']'.repeat(20000)}}`],
    ['POST', '/api/sheets', `{"kadro":"model","format":1,"sheet":{"id":"x","dims":{"lengthMm":1e308}}}`],
    ['POST', '/api/sheets', '{'.repeat(100_000)],
    [
      'GET',
      `/api/orders/${order}/meter?sight=${encodeURIComponent(JSON.stringify({ look: { kind: 'works', lit: ['nobody'], dark: [] }, state: { controls: {}, beat: true } }))}`,
    ],
    ['GET', `/api/orders/${order}/meter?sight=${encodeURIComponent('['.repeat(3000))}`],
    ['GET', `/api/orders/${order}/aim.pdf?distance=1e308`],
    ['GET', '/api/orders?q=' + '%25'.repeat(60) + '&from=0001-01-01&to=9999-12-31'],
    ['GET', '/api/orders?limit=1e9'],
    ['GET', '/api/photos/' + 'f'.repeat(64)],
    ['GET', '/api/orders/..%2f..%2fetc'],
    ['HEAD', '/api/stream'],
    ['PUT', `/api/photos/${'a'.repeat(64)}`, new Uint8Array(300_000), { 'Content-Type': 'image/png' }],
    ['POST', '/api/session', { name: { a: 1 }, password: [] }],
    ['POST', '/api/session', { name: 'x'.repeat(100_000), password: 'y' }],
  ];
}

/** What is larger is refused while it is still being sent, and its sender may lose the line before the answer is read. */
const MOST_BYTES = 250_000;
function bytesOf(body) {
  try {
    return body instanceof Uint8Array ? 0 : Buffer.byteLength(JSON.stringify(body) ?? '');
  } catch {
    // nested too deep for that
    return 0;
  }
}

/**
 * Sends hostile requests, a few at once, and asks after the server's health meanwhile.
 * @returns how many were sent, by status; those of 500 and above; the slowest; and the slowest answer of health, ms
 */
export async function hostile(hand, { count, seed, atOnce = 2, order, log = () => {} }) {
  const rnd = random(seed);
  const doc = (await hand.call('GET', '/api/openapi.json')).json;
  const calcs = (await hand.call('GET', '/api/calc')).json.map((c) => c.name);
  const { calcSchemas } = await import('./calc-schemas.mjs');
  const schemas = await calcSchemas();
  const routes = Object.entries(doc.paths).flatMap(([path, ways]) => Object.entries(ways).map(([method, op]) => ({ path, method, op })));
  // what ends the session of the hand itself, or makes work for the owner alone, is sent by somebody else
  const usable = routes.filter((r) => !(r.method === 'delete' && r.path === '/api/session'));
  const commands = doc.paths['/api/orders/{id}/events'].post.requestBody.content['application/json'].schema;
  const ids = [order, 'x', '00000000-0000-4000-8000-000000000000', "1' OR '1'='1", '%00', 'ÿ'.repeat(30), 'a'.repeat(900)];
  const fixed = known(order);
  const out = { sent: 0, byStatus: {}, faults: [], slow: [], slowestMs: 0, healthMs: 0 };

  const one = () => {
    const kind = rnd();
    if (kind < 0.06) return fixed[Math.floor(rnd() * fixed.length)];
    if (kind < 0.4) {
      const name = calcs[Math.floor(rnd() * calcs.length)];
      return ['POST', `/api/calc/${name}`, made(schemas[name], rnd, schemas[name])];
    }
    if (kind < 0.7)
      return [
        'POST',
        `/api/orders/${rnd() < 0.9 ? order : ids[Math.floor(rnd() * ids.length)]}/events`,
        made(commands, rnd, commands),
        { 'If-Match': `"${Math.floor(rnd() * 60)}"` },
      ];
    const r = usable[Math.floor(rnd() * usable.length)];
    const path = r.path.replace(/\{(\w+)\}/g, (_, k) =>
      encodeURIComponent(
        k === 'id' && rnd() < 0.6 ? order : k === 'name' ? calcs[Math.floor(rnd() * calcs.length)] : ids[Math.floor(rnd() * ids.length)],
      ),
    );
    const query = (r.op.parameters ?? [])
      .filter((p) => p.in === 'query' && rnd() < 0.6)
      .map((p) => `${p.name}=${encodeURIComponent(String(JSON.stringify(made(p.schema, rnd, p.schema)) ?? '').slice(0, 3000))}`);
    const json = r.op.requestBody?.content?.['application/json']?.schema;
    const body =
      r.method === 'get' ? undefined : json ? made(json, rnd, json) : rnd() < 0.5 ? 'x'.repeat(Math.floor(rnd() * 5000)) : made(null, rnd);
    return [r.method.toUpperCase(), path + (query.length ? `?${query.join('&')}` : ''), body, HEADERS[Math.floor(rnd() * HEADERS.length)]];
  };

  const probe = new Worker(new URL('./health-probe.mjs', import.meta.url), { workerData: { base: hand.base } });
  const probed = new Promise((resolve, reject) => probe.once('message', resolve).once('error', reject));
  const work = async () => {
    while (out.sent < count) {
      const n = out.sent++;
      const [method, path, body, headers] = n < fixed.length ? fixed[n] : one();
      let sendable = body;
      if (bytesOf(body) > MOST_BYTES) continue;
      if (body !== undefined && !(body instanceof Uint8Array) && typeof body !== 'string')
        try {
          JSON.stringify(body);
        } catch {
          sendable = 'deep';
        }
      const r = await hand.call(method, path, sendable, headers);
      out.byStatus[r.status] = (out.byStatus[r.status] ?? 0) + 1;
      out.slowestMs = Math.max(out.slowestMs, r.ms);
      const what = `${method} ${path.slice(0, 120)} ${body === undefined ? '' : (typeof sendable === 'string' ? sendable : JSON.stringify(sendable)).slice(0, 300)}`;
      if (r.status >= 500 || r.status === 0) out.faults.push({ status: r.status, what, text: r.text.slice(0, 200) });
      if (r.ms > 1000) out.slow.push({ ms: Math.round(r.ms), what });
      if (out.sent % 2000 === 0) log(`${out.sent} of ${count}`);
    }
  };
  await Promise.all(Array.from({ length: atOnce }, work));
  probe.postMessage('end');
  const health = await probed;
  health.faults.forEach((f) => out.faults.push({ status: f, what: 'health' }));
  return { ...out, healthMs: health.most, healthP99Ms: health.p99, healthAsked: health.asked };
}
